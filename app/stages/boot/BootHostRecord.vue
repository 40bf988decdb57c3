<script setup lang="ts">
/** What is written down of the board, for whoever stands before it next year. */
import type { Host } from '~~/core/plan/host-shape'

const project = useProjectStore()
const { host, set } = useHost()
const copyText = useCopy()
type Written = Host['record']
const FIELDS = [
  ['image', 'Image', 'as its file is called'], ['imageDate', 'Of', '2026-05-01'], ['kernel', 'Kernel', 'uname -r'],
  ['address', 'Reached at', 'hive.local, 192.168.7.20'],
  ['passwordAt', 'Where the password is kept', 'red notebook, page 4'],
] as const
const change = (name: keyof Written, value: string | undefined) => {
  const { [name]: _, ...rest } = host.value.record
  set({ record: value ? { ...rest, [name]: value } : rest }, 'The record of the board')
}
/** What is typed at length is one step of undo. */
const write = (name: 'installed' | 'notes', value: string) =>
  set({ record: { ...host.value.record, [name]: value } }, 'The record of the board', `record ${name}`)
const lines = computed(() => [
  `# ${project.plan!.name}`, '',
  ...[
    ['Board', project.facts!.board?.name], ['Name', host.value.name], ['User', host.value.user], ['Address',
      host.value.record.address ?? host.value.address?.address],
    ['Password', host.value.record.passwordAt && `kept: ${host.value.record.passwordAt}`], ['Image',
      [host.value.record.image,
        host.value.record.imageDate].filter(Boolean).join(', ')],
    ['Kernel', host.value.record.kernel],
  ].flatMap(([name, value]) => value ? [`- ${name}: ${value}`] : []),
  ...host.value.record.installed
    ? ['', 'Installed:', '', ...host.value.record.installed.split('\n').map(line => `- ${line}`)]
    : [],
  ...host.value.record.notes ? ['', host.value.record.notes] : [], '',
].join('\n'))
</script>

<template>
  <FoldPanel title="Record of the board">
    <div class="fields">
      <LineField
        v-for="[name, label, placeholder] in FIELDS"
        :key="name"
        :label="label"
        :placeholder="placeholder"
        :value="host.record[name]"
        :test="`record-${name}`"
        @set="(value: string | undefined) => change(name, value)"
      />
    </div>
    <v-textarea
      label="What was installed, one a line"
      rows="2"
      auto-grow
      max-rows="8"
      maxlength="20000"
      :model-value="host.record.installed ?? ''"
      @update:model-value="(value: string) => write('installed', value)"
    />
    <v-textarea
      class="notes"
      label="Notes"
      rows="2"
      auto-grow
      max-rows="8"
      maxlength="20000"
      :model-value="host.record.notes ?? ''"
      @update:model-value="(value: string) => write('notes', value)"
    />
    <v-btn
      size="small"
      variant="outlined"
      @click="copyText(lines, 'The record')"
    >
      Copy as text
    </v-btn>
  </FoldPanel>
</template>

<style scoped>
.fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(128px, 1fr)); gap: 10px; margin: 4px 0 10px; }
.notes { margin: 10px 0 8px; }
</style>
