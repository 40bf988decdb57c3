<script setup lang="ts">
/** Programs and pages that start by themselves. */
import { newId } from '~/database/id'
import type { HostRun } from '~~/core/plan/host-shape'

const { host, set } = useHost()
const HOW = [
  { value: 'service', title: 'with the board, in the background' }, { value: 'desktop', title: 'with the desktop' },
  { value: 'page', title: 'a page over the whole screen' },
]
const RESTART = [
  { value: 'on-failure', title: 'anew when it fails' }, { value: 'always', title: 'anew whenever it ends' },
  { value: 'never',
    title: 'not again' },
]

function add() {
  const names = new Set(host.value.runs.map(({ name }) => name))
  let n = 1
  while (names.has(`program-${n}`)) n++
  const user = host.value.user ?? 'user'
  set({ runs: [...host.value.runs, { id: newId(), name: `program-${n}`, how: 'service',
    command: `/usr/bin/python3 /home/${user}/main.py` }] }, 'A program that starts by itself')
}

function change(id: string, fields: { [Name in keyof HostRun]?: HostRun[Name] | undefined }, label: string) {
  set({ runs: host.value.runs.map(run => run.id === id
    ? Object.fromEntries(Object.entries({ ...run, ...fields })
      .filter(([, value]) => value !== undefined)) as unknown as HostRun
    : run) }, label)
}
const drop = (id: string) => set({ runs: host.value.runs.filter(run => run.id !== id) }, 'Take a program out')
</script>

<template>
  <FoldPanel
    title="Programs that start by themselves"
    :open="host.runs.length > 0"
  >
    <article
      v-for="run in host.runs"
      :key="run.id"
      class="run"
    >
      <div class="fields">
        <LineField
          label="Name"
          :value="run.name"
          :max="60"
          :pattern="/^[A-Za-z0-9][A-Za-z0-9_-]{0,59}$/"
          says="letters, digits, dashes and underscores"
          @set="name => name && change(run.id, { name }, 'Name the program')"
        />
        <v-select
          label="Starts"
          :items="HOW"
          :model-value="run.how"
          @update:model-value="how => change(run.id, { how }, 'How it starts')"
        />
        <LineField
          class="wide"
          :label="run.how === 'page' ? 'Address of the page' : 'Command, with its whole path'"
          :value="run.command"
          :max="1000"
          test="run-command"
          @set="command => change(run.id, { command: command ?? '' }, 'The command')"
        />
        <LineField
          v-if="run.how !== 'page'"
          label="In the folder"
          :value="run.folder"
          :max="1000"
          @set="folder => change(run.id, { folder }, 'The folder')"
        />
        <v-select
          v-if="run.how === 'service'"
          label="When it ends"
          :items="RESTART"
          :model-value="run.restart ?? 'on-failure'"
          @update:model-value="restart => change(run.id, { restart }, 'When it ends')"
        />
        <v-checkbox
          v-if="run.how === 'service'"
          label="Waits for the network"
          :model-value="run.network ?? false"
          @update:model-value="value => change(run.id, { network: value || undefined }, 'Waits for the network')"
        />
        <v-checkbox
          v-if="run.how !== 'page'"
          label="Sound without gaps"
          :model-value="run.realTime ?? false"
          @update:model-value="value => change(run.id, { realTime: value || undefined }, 'Sound without gaps')"
        />
        <v-btn
          size="small"
          variant="text"
          @click="drop(run.id)"
        >
          Take out
        </v-btn>
      </div>
    </article>
    <v-btn
      size="small"
      variant="outlined"
      data-test="run-add"
      @click="add"
    >
      Add a program or page
    </v-btn>
  </FoldPanel>
</template>

<style scoped>
.run { border-bottom: 1px solid var(--rule); padding: 6px 0 8px; margin-bottom: 8px; }
.fields { display: grid; grid-template-columns: repeat(2, minmax(0, 1fr)); gap: 10px; align-items: center; }
.wide { grid-column: 1 / -1; }
@media (max-width: 600px) { .fields { grid-template-columns: minmax(0, 1fr); } }
</style>
