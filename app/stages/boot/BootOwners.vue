<script setup lang="ts">
/** Which part asks for which line; each part's lines can be switched off, and come back as they were. */
const project = useProjectStore()
const { boot, owned, setBoot } = useBoot()
const { colourOf, nameOf } = useOwners()
const after = computed(() => project.report!.boot)
const off = computed(() => new Set(boot.value?.off))
const whenOff = computed({
  get: () => boot.value?.whenOff ?? 'remove',
  set: value => setBoot({ whenOff: value }, value === 'comment'
    ? 'Keep lines of parts that are off as comments'
    : 'Take out lines of parts that are off'),
})

const owners = computed(() => {
  const ids = [...new Set(after.value.needs.flatMap(need => need.partIds))]
  return [...ids.map(id => ({ id, name: nameOf(id),
    lines: after.value.needs.filter(need => need.partIds.includes(id)) })),
  ...after.value.needs.some(need => !need.partIds.length)
    ? [{ id: '', name: 'The board itself', lines: after.value.needs.filter(need => !need.partIds.length) }]
    : []]
})
const stateOf = (line: string) => owned.value.find(entry => entry.text === line || entry.text === `#${line}`)?.state
const WORDS = { 'written': 'in the file', 'by-hand': 'changed by hand', 'off': 'in comments' } as const

function toggle(id: string, on: boolean) {
  const next = on ? [...off.value].filter(other => other !== id) : [...off.value, id]
  setBoot({ off: next }, `Switch the lines of ${nameOf(id)} ${on ? 'on' : 'off'}`)
}
</script>

<template>
  <div class="sheet owners-list">
    <v-radio-group
      v-model="whenOff"
      class="choice"
      label="Lines of parts that are off or gone"
      inline
    >
      <v-radio
        value="remove"
        label="are taken out"
        data-test="when-off-remove"
      />
      <v-radio
        value="comment"
        label="become comments"
        data-test="when-off-comment"
      />
    </v-radio-group>
    <ul>
      <li
        v-for="owner in owners"
        :key="owner.id"
        :style="{ '--owner': colourOf(owner.id) }"
      >
        <v-checkbox
          v-if="owner.id"
          class="name"
          :model-value="!off.has(owner.id)"
          :aria-label="`Lines of ${owner.name}`"
          :data-test="`lines-of-${owner.id}`"
          @update:model-value="value => toggle(owner.id, value === true)"
        >
          <template #label>
            <span class="owner-swatch" />&nbsp;<b>{{ owner.name }}</b>
          </template>
        </v-checkbox>
        <b v-else>{{ owner.name }}</b>
        <div
          v-for="line in owner.lines"
          :key="line.line"
          class="line"
        >
          <code class="figures">{{ line.line }}</code>
          <span class="quiet small">{{ line.why }}{{ stateOf(line.line) ? `; ${WORDS[stateOf(line.line)!]}` : '' }}</span>
        </div>
      </li>
      <li
        v-if="!owners.length"
        class="quiet"
      >
        No part asks for a line yet: place some first.
      </li>
    </ul>
  </div>
</template>

<style scoped>
.owners-list { padding: 8px 12px; border-top-left-radius: 0; }
.choice { padding-bottom: 8px; border-bottom: 1px solid var(--rule); }
ul { list-style: none; margin: 0; padding: 0; }
li { padding: 8px 0; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.line { padding-left: 22px; display: grid; gap: 0; }
code { overflow-wrap: anywhere; font-size: 12.5px; }
</style>
