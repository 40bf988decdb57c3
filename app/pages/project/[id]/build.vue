<script setup lang="ts">
/** The wire list in the order of connecting, power last; and the same one wire at a time. */
import { wiresAsCsv } from '~~/core/build/table'
import { WIRE_COLOURS } from '~~/core/build/wires'

const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
const { go } = useStages()
const focus = ref(false)
const wires = computed(() => project.report!.wires)
const done = computed(() => new Set(project.plan!.build.done))
const doneCount = computed(() => wires.value.filter(wire => done.value.has(wire.key)).length)
const addOns = computed(() => project.facts!.parts.filter(part => part.part.isAddOn))
const plugs = computed(() => project.facts!.parts.flatMap(owner => (owner.part.plugs ?? [])
  .filter(plug => Object.entries(plug.when ?? {}).every(([id, value]) => owner.options[id] === value))
  .map(plug => ({ owner, socket: plug.socket }))))
const stops = computed(() => project.report!.counts.stops)
const cautions = computed(() => [...new Set(project.facts!.parts.flatMap(owner => owner.part.cautions ?? []))])

function toggle(key: string) {
  project.edit({ edit: 'wire-done', wire: key, done: !done.value.has(key) }, 'Tick a wire')
}

function dress(terminal: string, field: 'colour' | 'lengthM', event: Event) {
  const text = (event.target as HTMLInputElement).value
  if (field === 'colour') return project.edit({ edit: 'dress-wire', terminal, colour: text }, 'Choose a wire colour')
  const lengthM = Number(text.replace(',', '.')) / 100
  if (!(lengthM > 0) || lengthM > 100) return view.say(`"${text}" is no length. Type centimetres, e.g. 20.`, { tone: 'stop' })
  project.edit({ edit: 'dress-wire', terminal, lengthM }, 'Set a wire length')
}

function csv() {
  download(fileName(project.plan!.name, '-wires.csv'), '\uFEFF' + wiresAsCsv(wires.value), 'text/csv')
}
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Build</h1>
      <span class="quiet">{{ doneCount }} of {{ wires.length }} wires done</span>
      <span class="spacer" />
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!wires.length"
        data-test="download-wires"
        @click="csv"
      >
        Download wire list
      </v-btn>
      <v-btn
        size="small"
        color="primary"
        :disabled="!wires.length"
        data-test="focus"
        @click="focus = true"
      >
        Focus mode
      </v-btn>
    </div>
    <p
      v-if="stops"
      class="hold"
    >
      <b>{{ stops }} {{ stops === 1 ? 'stop is' : 'stops are' }} open.</b> Mend {{ stops === 1 ? 'it' : 'them' }} before the supply goes in: something would not work or be damaged.
    </p>
    <p class="small quiet lead">
      Supply unplugged while you wire. Touch something earthed first. Position 1 has the square pad. Never move a wire on a running board.
    </p>
    <ul
      v-if="cautions.length"
      class="cautions small"
    >
      <li
        v-for="caution in cautions"
        :key="caution"
      >
        {{ caution }}
      </li>
    </ul>
    <div
      v-if="!wires.length"
      class="empty"
    >
      <p>No wire yet: nothing is placed.</p>
      <v-btn
        size="small"
        color="primary"
        @click="go('wiring')"
      >
        To the Wiring stage
      </v-btn>
    </div>
    <template v-else>
      <p
        v-for="owner in addOns"
        :key="owner.id"
        class="push"
      >
        First push <b>{{ owner.name }}</b> on: position 1 over position 1, not one row or column off; look from the side before pressing. Then wire to its through pins.
      </p>
      <table
        class="plain-table wires"
        data-test="wires"
      >
        <thead>
          <tr>
            <th scope="col">
              <span class="only-reader">Done</span>
            </th><th
              scope="col"
              class="num"
            >
              Nr
            </th><th scope="col">
              Part
            </th><th scope="col">
              From
            </th><th scope="col">
              To
            </th><th scope="col">
              Through
            </th><th scope="col">
              Colour
            </th><th
              scope="col"
              class="num"
            >
              cm
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(wire, i) in wires"
            :key="wire.key"
            :class="{ done: done.has(wire.key) }"
          >
            <td>
              <input
                type="checkbox"
                :checked="done.has(wire.key)"
                :aria-label="`${wire.partName} ${wire.from} to ${wire.to} done`"
                @change="toggle(wire.key)"
              >
            </td>
            <td class="num">
              {{ i + 1 }}
            </td>
            <td>
              <span
                class="owner-swatch"
                :style="{ '--owner': colourOf(wire.partId) }"
              /> {{ wire.partName }}
            </td>
            <td class="figures">
              {{ wire.from }}
            </td>
            <td class="figures">
              {{ wire.to }}<span
                v-if="wire.shared"
                class="quiet"
              > · split</span>
            </td>
            <td>{{ wire.through ?? '' }}</td>
            <td>
              <select
                :value="wire.colour"
                :aria-label="`Colour of ${wire.partName} ${wire.from}`"
                @change="dress(wire.terminal, 'colour', $event)"
              >
                <option
                  v-for="colour in WIRE_COLOURS"
                  :key="colour"
                >
                  {{ colour }}
                </option>
              </select>
            </td>
            <td class="num">
              <input
                class="length figures"
                :value="Math.round(wire.lengthM * 100)"
                :aria-label="`Length of ${wire.partName} ${wire.from} in cm`"
                @change="dress(wire.terminal, 'lengthM', $event)"
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p
        v-for="plug in plugs"
        :key="plug.owner.id + plug.socket"
        class="push"
      >
        Then plug <b>{{ plug.owner.name }}</b> into a {{ plug.socket === 'usb' ? 'USB' : 'video' }} socket.
      </p>
      <p class="push">
        Last of all the supply: <b>{{ project.facts!.supply?.name ?? 'none chosen yet' }}</b>.
      </p>
    </template>
    <FocusMode
      v-if="focus"
      :wires="wires"
      @close="focus = false"
    />
  </div>
</template>

<style scoped>
.stage-head { align-items: center; gap: 8px; }
.lead { margin-bottom: 8px; }
.hold { border: 1px solid var(--carmine); border-left-width: 6px; background: var(--carmine-wash); border-radius: 4px; padding: 6px 12px; margin-bottom: 8px; }
.cautions { margin: 0 0 10px; padding-left: 0; list-style: none; display: grid; gap: 3px; }
.cautions li { border-left: 3px dashed var(--ochre); padding-left: 8px; }
.empty { display: grid; gap: 8px; justify-items: start; padding: 12px 0; }
.push { padding: 6px 0; }
.wires select, .length { border: 1px solid transparent; border-radius: 3px; background: transparent; color: inherit; font-size: 13px; }
.wires option { background: var(--sheet); color: var(--ink); }
.wires select:hover, .length:hover, .length:focus { border-color: var(--rule); }
.length { width: 46px; text-align: right; }
.done td { color: var(--ink-2); text-decoration: line-through; text-decoration-color: color-mix(in srgb, var(--ink-2) 50%, transparent); }
</style>
