<script setup lang="ts">
/** What hands do beside a simulated board: switch, meter, plugs, keys, breath, and the room around it. */
import type { Quantity } from '~~/core/catalogue/types'
import type { BoardState } from '~~/core/simulated/state'

const { state, busy, answer } = defineProps<{
  state: BoardState
  busy: boolean
  /** What the meter or the lamps showed last. */
  answer: string | null
}>()
const emit = defineEmits<{ act: [line: string] }>()
const act = (line: string) => emit('act', line)

const from = ref<string | null>('@P1')
const to = ref<string | null>('@P6')
/** Names of pins as one types them: positions by their number alone. */
const typedName = (pin: string) => /^@P\d+$/.test(pin) ? pin.slice(2) : pin
const measure = (how: 'volt' | 'ohm') =>
  from.value && to.value && act(`:${how} ${typedName(from.value)} ${typedName(to.value)}`)

interface Knob {
  set: string
  name: string
  unit: string
  field: keyof BoardState['surroundings']
  min: number
  max: number
}
const ROOM: Readonly<Record<Quantity, Knob>> = {
  'temperature': { set: 'air', name: 'air', unit: '°C', field: 'airC', min: -40, max: 85 },
  'humidity': { set: 'humidity', name: 'humidity', unit: '%', field: 'humidity', min: 0, max: 100 },
  'pressure': { set: 'height', name: 'height above the sea', unit: 'm', field: 'heightM', min: -400, max: 9000 },
  'light': { set: 'light', name: 'light', unit: 'lux', field: 'lux', min: 0, max: 100_000 },
  'carbon-dioxide': { set: 'co2', name: 'carbon dioxide', unit: 'ppm', field: 'co2Ppm', min: 0, max: 40_000 },
  'distance': { set: 'distance', name: 'distance', unit: 'mm', field: 'distanceMm', min: 0, max: 10_000 },
  'weight': { set: 'weight', name: 'weight', unit: 'g', field: 'weightG', min: 0, max: 200_000 },
  'voltage': { set: 'volts', name: 'volts at the input', unit: 'V', field: 'volts', min: 0, max: 5 },
}
const UNITS: Readonly<Record<Quantity, [unit: string, digits: number]>> = {
  'temperature': ['°C', 1], 'humidity': ['%', 0], 'pressure': ['hPa', 2], 'light': ['lux', 0],
  'carbon-dioxide': ['ppm', 0],
  'distance': ['mm', 0], 'weight': ['g', 0], 'voltage': ['V', 2],
}
const room = computed(() =>
  [...new Set(state.parts.flatMap(({ reads }) => reads.map(({ what }) => what)))].map(what => ROOM[what]))
const said = ({ what, value }: BoardState['parts'][number]['reads'][number]) =>
  `${value.toFixed(UNITS[what][1])} ${UNITS[what][0]}`
const clock = computed(() => {
  const minutes = Math.floor(state.nowS / 60)
  return minutes ? `${minutes} min ${Math.floor(state.nowS % 60)} s` : `${Math.floor(state.nowS)} s`
})
/** Breath and warmth change what a part measures of the air. */
const isOfAir = (part: BoardState['parts'][number]) =>
  part.reads.some(({ what }) => what === 'temperature' || what === 'humidity')
</script>

<template>
  <div class="hands">
    <section>
      <h2>Power</h2>
      <p data-test="board-lamps">
        Lamps: <b>{{ state.lamps }}</b>
      </p>
      <p class="small quiet figures">
        {{ state.isOn ? `on for ${clock}` : 'off' }}{{ state.chipC === null ? '' : `, processor ${state.chipC.toFixed(1)} °C` }}
      </p>
      <div class="row">
        <v-btn
          size="small"
          variant="outlined"
          :disabled="busy"
          data-test="board-power"
          @click="act(state.isOn ? ':off' : ':on')"
        >
          {{ state.isUp ? 'Shut down' : state.isOn ? 'Switch off' : 'Switch on' }}
        </v-btn>
        <v-btn
          v-if="state.isUp"
          size="small"
          variant="text"
          :disabled="busy"
          data-test="board-cut"
          @click="act(':cut')"
        >
          Pull the supply
        </v-btn>
        <v-btn
          size="small"
          variant="text"
          :disabled="busy || !state.isUp"
          data-test="board-load"
          @click="act(`:load ${state.isBusy ? 'off' : 'on'}`)"
        >
          {{ state.isBusy ? 'Let the cores rest' : 'Load all cores' }}
        </v-btn>
        <v-btn
          size="small"
          :variant="state.isBoardInHand ? 'outlined' : 'text'"
          :aria-pressed="state.isBoardInHand"
          :disabled="busy"
          data-test="move-board"
          @click="act(`:${state.isBoardInHand ? 'still' : 'move'} board`)"
        >
          {{ state.isBoardInHand ? 'Let the board\'s cables go' : 'Move the board\'s cables' }}
        </v-btn>
        <v-btn
          size="small"
          variant="text"
          :disabled="busy"
          @click="act(':wait 60')"
        >
          Wait a minute
        </v-btn>
      </div>
    </section>
    <section>
      <h2>Meter</h2>
      <div class="pair">
        <v-autocomplete
          v-model="from"
          :items="state.pins"
          item-value="pin"
          item-title="label"
          label="red tip"
          hide-details
          data-test="meter-from"
        />
        <v-autocomplete
          v-model="to"
          :items="state.pins"
          item-value="pin"
          item-title="label"
          label="black tip"
          hide-details
          data-test="meter-to"
        />
      </div>
      <div class="row">
        <v-btn
          size="small"
          variant="outlined"
          :disabled="busy || !from || !to"
          data-test="meter-volt"
          @click="measure('volt')"
        >
          Volts
        </v-btn>
        <v-btn
          size="small"
          variant="outlined"
          :disabled="busy || !from || !to || state.isOn"
          data-test="meter-ohm"
          @click="measure('ohm')"
        >
          Ohms
        </v-btn>
        <v-btn
          size="small"
          variant="text"
          :disabled="busy"
          @click="act(':amps')"
        >
          Current of the supply
        </v-btn>
      </div>
      <p
        class="shows figures"
        aria-live="polite"
        data-test="meter-shows"
      >
        {{ answer ?? 'Ohms with the power off alone.' }}
      </p>
    </section>
    <section v-if="room.length">
      <h2>The room</h2>
      <div class="pair">
        <NumberField
          v-for="{ set, name, unit, field, min, max } in room"
          :key="set"
          :label="name"
          :unit="unit"
          :min="min"
          :max="max"
          :value="state.surroundings[field]"
          :data-test="`room-${set}`"
          @set="value => act(`:set ${set} ${value}`)"
        />
      </div>
    </section>
    <section>
      <h2>Parts</h2>
      <p
        v-if="!state.parts.length"
        class="small quiet"
      >
        No part is wired yet.
      </p>
      <div
        v-for="part in state.parts"
        :key="part.id"
        class="part"
        :data-test="`board-part-${part.id}`"
      >
        <p>
          {{ part.name }}
          <span
            v-if="part.reads.length && part.isIn"
            class="small quiet figures"
          >{{ part.reads.map(said).join(', ') }}</span>
          <span
            v-if="part.isIn && part.look"
            class="small quiet"
            :data-test="`look-${part.id}`"
          >{{ part.look }}</span>
        </p>
        <div class="row">
          <v-chip
            v-for="key in part.keys"
            :key="key.key"
            size="small"
            :variant="key.isHeld ? 'flat' : 'outlined'"
            :color="key.isHeld ? 'primary' : undefined"
            :aria-pressed="key.isHeld"
            :data-test="`hold-${key.key}`"
            @click="act(`:${key.isHeld ? 'release' : 'press'} ${key.key}`)"
          >
            {{ key.isHeld ? `let ${key.label} go` : `hold ${key.label}` }}
          </v-chip>
          <template v-if="isOfAir(part)">
            <v-chip
              size="small"
              variant="outlined"
              :data-test="`breathe-${part.id}`"
              @click="act(`:breathe ${part.id}`)"
            >
              breathe on it
            </v-chip>
            <v-chip
              size="small"
              variant="outlined"
              @click="act(`:warm ${part.id}`)"
            >
              warm it
            </v-chip>
          </template>
          <v-chip
            v-if="part.canPull"
            size="small"
            :variant="part.isInHand ? 'flat' : 'outlined'"
            :color="part.isInHand ? 'primary' : undefined"
            :aria-pressed="part.isInHand"
            :data-test="`move-${part.id}`"
            @click="act(`:${part.isInHand ? 'still' : 'move'} ${part.id}`)"
          >
            {{ part.isInHand ? 'let its wires go' : 'move its wires' }}
          </v-chip>
          <v-chip
            v-if="part.canPull"
            size="small"
            variant="outlined"
            :data-test="`pull-${part.id}`"
            @click="act(`:${part.isIn ? 'pull' : 'plug'} ${part.id}`)"
          >
            {{ part.isIn ? 'pull it off' : 'put it back' }}
          </v-chip>
        </div>
      </div>
    </section>
  </div>
</template>

<style scoped>
.hands { display: grid; gap: 14px; align-content: start; min-width: 0; }
section { display: grid; gap: 6px; }
.row { display: flex; gap: 6px; flex-wrap: wrap; align-items: center; }
.pair { display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 150px), 1fr)); gap: 8px; }
.shows { background: var(--paper-2); border-left: 4px solid var(--copper); padding: 4px 10px; font-size: 14px; white-space: pre-line; }
.part { border-top: 1px solid var(--rule); padding-top: 5px; display: grid; gap: 4px; }
</style>
