<script setup lang="ts">
/** Two supplies, or two arrangements that were kept, side by side. */
import {
  compareArrangements, COMPARED_ROWS, isBetter, likeSupply, withSupply, type Compared, type ComparedRow,
} from '~~/core/choose/arrangements'
import { arrangementOf } from '~~/core/plan/power-edits'
import { shippedCatalogue } from '~~/core/catalogue'
import type { Arrangement } from '~~/core/plan/power'

const project = useProjectStore()
const view = useViewStore()
const { supplies, asItems } = usePower()
const kept = computed(() => project.plan!.power.arrangements)
const left = ref('now')
const right = ref(firstOther())
const name = ref('')

function firstOther(): string {
  const unit = likeSupply(project.plan!, project.catalogue)
  return unit ? `supply ${unit.id}` : 'now'
}
function arrangement(key: string): Arrangement {
  const plan = project.plan!
  if (key.startsWith('supply ')) {
    const unit = project.catalogue.supplies.get(key.slice(7))
    if (unit) return withSupply(plan, unit.id, unit.name)
  }
  return kept.value.find(entry => entry.id === key) ?? arrangementOf(plan, 'now', 'As it is now')
}
const both = computed(() =>
  compareArrangements(project.plan!, shippedCatalogue, arrangement(left.value), arrangement(right.value)))
const volt = (value: number | null) => value === null ? '—' : `${value.toFixed(2)} V`
const milliampsSigned = (ma: number) => `${ma < 0 ? '−' : ''}${milliamps(Math.abs(ma))}`
const TEXTS: Readonly<Record<keyof typeof COMPARED_ROWS, (side: Compared) => string>> = {
  price: side => side.price.toFixed(0),
  hours: side => side.hours === null ? '—' : `${side.hoursAtLeast ? 'over ' : ''}${side.hours.toFixed(1)}`,
  spare: side => side.spareMa === null
    ? '—'
    : `${milliampsSigned(side.spareMa)} (${Math.round(side.spareShare! * 100)} %)`,
  typicalV: side => volt(side.typicalV),
  peakV: side => volt(side.peakV),
  usb: side => side.usbMa === null ? '—' : milliamps(side.usbMa),
  typicalW: side => `${side.typicalW.toFixed(2)} W`,
  lossW: side => `${(side.lossW * 1000).toFixed(0)} mW`,
  findings: side => `${side.stops}, ${side.cautions}`,
}
const ROWS = (Object.keys(COMPARED_ROWS) as (keyof typeof COMPARED_ROWS)[])
  .map(key => ({ row: COMPARED_ROWS[key] as ComparedRow, label: COMPARED_ROWS[key].label, text: TEXTS[key] }))
const otherOf = (i: 0 | 1) => both.value[i === 0 ? 1 : 0]
const wins = ({ row }: typeof ROWS[number], i: 0 | 1) => isBetter(row, both.value[i], otherOf(i))
/** It stops the plan where the other does not. */
const stopsMore = (i: 0 | 1) => both.value[i].stops > otherOf(i).stops
function keep() {
  const id = `arrangement-${Date.now().toString(36)}`
  project.edit(
    {
      edit: 'keep-arrangement',
      arrangement: arrangementOf(project.plan!, id, name.value.trim() || `Arrangement ${kept.value.length + 1}`),
    },
    'Keep the arrangement',
  )
  name.value = ''
  right.value = id
}
function take(key: string) {
  const chosen = arrangement(key)
  project.edit(
    {
      edit: 'all',
      edits: [
        { edit: 'choose-supply', supply: chosen.supply },
        { edit: 'set-power',
          power: { nodes: chosen.nodes, feeds: chosen.feeds, joins: chosen.joins, figures: chosen.figures } },
      ],
    },
    `Feed it by ${chosen.name}`,
  )
  left.value = 'now'
  view.say(`Fed by ${chosen.name}. Undo brings the other back.`)
}
function drop(entry: Arrangement) {
  project.edit({ edit: 'drop-arrangement', id: entry.id }, `Drop ${entry.name}`)
  if (left.value === entry.id) left.value = 'now'
  if (right.value === entry.id) right.value = firstOther()
}
const sides = [left, right] as const
const choices = computed(() => [
  { value: 'now', title: 'As it is now' },
  ...asItems([
    ...kept.value.length ? [['Kept', kept.value] as const] : [],
    ['With another supply for the board', supplies.value.map(unit => ({ ...unit, id: `supply ${unit.id}` }))],
  ]),
])
</script>

<template>
  <section data-test="compare">
    <v-table class="sides">
      <caption class="only-reader">
        Two ways to feed the plan
      </caption>
      <thead>
        <tr>
          <th scope="col">
            <span class="only-reader">figure</span>
          </th>
          <th
            v-for="(side, i) in sides"
            :key="i"
            scope="col"
          >
            <span class="only-reader">{{ i === 0 ? 'Left side' : 'Right side' }}</span>
            <v-autocomplete
              v-model="side.value"
              :items="choices"
              :aria-label="i === 0 ? 'Left side' : 'Right side'"
              :data-test="i === 0 ? 'compare-left' : 'compare-right'"
            />
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in ROWS"
          :key="row.label"
        >
          <th scope="row">
            {{ row.label }}
          </th>
          <td
            v-for="i in ([0, 1] as const)"
            :key="i"
            class="figures"
            :class="{ wins: wins(row, i) }"
          >
            {{ row.text(both[i]) }} <span
              v-if="wins(row, i)"
              class="small"
            >◂ better</span>
          </td>
        </tr>
        <tr>
          <th scope="row">
            only here
          </th>
          <td
            v-for="i in ([0, 1] as const)"
            :key="i"
            class="small"
          >
            <ul v-if="both[i].onlyHere.length">
              <li
                v-for="title in both[i].onlyHere"
                :key="title"
              >
                {{ title }}
              </li>
            </ul>
            <span
              v-else
              class="quiet"
            >nothing that the other has not</span>
          </td>
        </tr>
        <tr>
          <th scope="row">
            <span class="only-reader">Take one</span>
          </th>
          <td
            v-for="(side, i) in sides"
            :key="i"
          >
            <p
              v-if="stopsMore(i as 0 | 1)"
              class="small stops"
            >
              It stops the plan as it stands: see what is only here. It is better in nothing before that is mended.
            </p>
            <v-btn
              v-if="side.value !== 'now'"
              size="small"
              :color="i === 1 && !stopsMore(i as 0 | 1) ? 'primary' : undefined"
              :variant="i === 1 && !stopsMore(i as 0 | 1) ? 'flat' : 'outlined'"
              :data-test="i === 0 ? 'take-left' : 'take-right'"
              @click="take(side.value)"
            >
              {{ stopsMore(i as 0 | 1) ? 'Feed it like this all the same' : 'Feed it like this' }}
            </v-btn>
          </td>
        </tr>
      </tbody>
    </v-table>
    <div class="keep small">
      <v-text-field
        v-model="name"
        class="name"
        label="Keep how it is fed now as"
        maxlength="80"
        placeholder="a name"
        @keydown.enter="keep"
      />
      <v-btn
        size="small"
        variant="outlined"
        data-test="keep-arrangement"
        @click="keep"
      >
        Keep
      </v-btn>
      <v-chip
        v-for="entry in kept"
        :key="entry.id"
        closable
        :close-label="`Drop ${entry.name}`"
        @click:close="drop(entry)"
      >
        {{ entry.name }}
      </v-chip>
    </div>
  </section>
</template>

<style scoped>
section { display: grid; gap: 14px; min-width: 0; }
.sides :deep(table) { table-layout: fixed; }
.sides th:first-child { width: 150px; }
.sides th[scope=row] { color: var(--ink-2); font-weight: 500; }
.sides ul { margin: 0; padding-left: 16px; }
.stops { margin: 0 0 6px; color: var(--carmine); }
.wins { font-weight: 700; color: var(--moss); }
.keep { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.name { flex: 0 1 280px; }
</style>
