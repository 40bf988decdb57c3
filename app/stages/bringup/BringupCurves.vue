<script setup lang="ts">
/** Readings over time: pasted or dropped, kept, and held against what the plan predicts. */
import { mdiClose } from '@mdi/js'
import { keptReadings } from '~~/core/curves/keep'
import type { MeasuredCurve } from '~~/core/curves/types'
import type { KeptCurve } from '~~/core/plan/types'
import { newId } from '~/database/id'
import type { Curve } from '~/shared/LineChart.vue'
import { useCurve } from './useCurve'
import type { AskBringup } from './useSmallPrograms'

const { ask } = defineProps<{ ask: AskBringup }>()
const project = useProjectStore()
const kept = computed(() => project.plan!.curves)
const chosenId = ref<string | null>(null)
const chosen = computed(() => kept.value.find(({ id }) => id === chosenId.value) ?? kept.value.at(-1) ?? null)
const { judged, failure } = useCurve(ask, chosen)

function keep(found: MeasuredCurve[]): void {
  const at = new Date().toISOString()
  const curves: KeptCurve[] = found.map(curve => ({
    id: newId(), name: curve.name.slice(0, 120) || 'readings', unit: curve.unit.slice(0, 20), at,
    ...keptReadings(curve),
  }))
  project.edit({ edit: 'all', edits: [
    ...curves.map(curve => ({ edit: 'keep-curve' as const, curve })),
    { edit: 'log' as const, entry: { id: newId(), at, stage: 'bringup' as const,
      text: `Measured: ${curves.map(({ name, values }) => `${name}, ${values.length} readings`).join('; ')}.` } },
  ] }, curves.length === 1 ? 'Keep a curve' : `Keep ${curves.length} curves`)
  chosenId.value = curves[0]!.id
}
function rename(name: string | undefined): void {
  const curve = chosen.value!
  if (name !== undefined) {
    project.edit({ edit: 'keep-curve', curve: { ...curve, name: name.slice(0, 120) } }, 'Name a curve',
      `curve ${curve.id}`)
  }
}
const drop = (curve: KeptCurve) => project.edit({ edit: 'drop-curve', id: curve.id }, `Take ${curve.name} out`)

const span = computed(() => chosen.value?.seconds.at(-1) ?? 0)
const scale = computed(() => span.value > 7200
  ? { per: 3600, unit: 'hours' }
  : span.value > 180 ? { per: 60, unit: 'minutes' } : { per: 1, unit: 'seconds' })
const chart = computed<Curve[]>(() => {
  const curve = chosen.value
  if (!curve) return []
  const { per } = scale.value
  const fit = judged.value?.fit
  const heat = judged.value?.heat
  const unit = curve.unit || 'as read'
  return [
    { label: curve.name, unit, colour: '--copper',
      points: curve.seconds.map((second, i) => ({ x: second / per, y: curve.values[i]! })) },
    ...fit
      ? [{ label: 'fit', unit, colour: '--moss', dashed: true, points: Array.from({ length: 80 }, (_, i) => {
          const second = span.value * i / 79
          const left = second <= fit.fromS ? 1 : Math.exp(-(second - fit.fromS) / fit.tauS)
          return { x: second / per, y: fit.end + (fit.start - fit.end) * left }
        }) }]
      : [],
    ...heat && fit
      ? [{ label: 'predicted', unit, colour: '--owner-0', dashed: true,
          points: heat.predicted.map(({ second, temperatureC }) => ({ x: (second + fit.fromS) / per, y: temperatureC }))
            .filter(({ x }) => x <= span.value / per) }]
      : [],
  ]
})
const rows = computed(() => {
  const curve = chosen.value
  if (!curve) return []
  const every = Math.max(1, Math.ceil(curve.seconds.length / 15))
  return curve.seconds.flatMap((second,
    i) => i % every ? [] : [[(second / scale.value.per).toFixed(1), String(curve.values[i])]])
})
</script>

<template>
  <div class="columns">
    <section>
      <CurveIntake @keep="keep" />
      <h2>Kept</h2>
      <p
        v-if="!kept.length"
        class="small quiet"
        data-test="curves-empty"
      >
        None yet. A load test, for one: two minutes at rest, then all cores busy for half an hour, the temperature every ten seconds.
      </p>
      <ul
        v-else
        class="sheet list"
      >
        <li
          v-for="curve in kept"
          :key="curve.id"
          :class="{ chosen: curve.id === chosen?.id }"
        >
          <v-btn
            variant="text"
            class="shows"
            :aria-pressed="curve.id === chosen?.id"
            @click="chosenId = curve.id"
          >
            <span class="words"><b>{{ curve.name }}</b>
              <span class="small quiet block">{{ curve.values.length }} readings, {{ curve.at.slice(0, 10) }}</span></span>
          </v-btn>
          <IconAct
            :name="`Take ${curve.name} out`"
            :icon="mdiClose"
            @click="drop(curve)"
          />
        </li>
      </ul>
    </section>
    <section
      v-if="chosen"
      data-test="curve-shown"
    >
      <LineField
        label="name"
        :value="chosen.name"
        test="curve-name"
        @set="rename"
      />
      <ChartWithTable
        :curves="chart"
        :x-label="scale.unit"
        :label="`${chosen.name}, measured`"
        :columns="[scale.unit, chosen.unit || 'reading']"
        :rows="rows"
      />
      <p
        v-if="failure"
        class="problem"
        role="alert"
      >
        {{ failure }}
      </p>
      <CurveJudged
        v-else-if="judged"
        :curve="chosen"
        :judged="judged"
      />
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; gap: 14px; grid-template-columns: minmax(0, 3fr) minmax(0, 6fr); }
@media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
h2 { margin: 0 0 5px; }
.list { list-style: none; margin: 0; padding: 0; }
.list li {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 6px 10px;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent);
}
.chosen { background: color-mix(in srgb, var(--copper) 10%, transparent); }
.shows { justify-content: start; font-weight: 400; padding: 0; flex: 1; height: auto; }
.words { text-align: start; }
.block { display: block; white-space: normal; }
.problem { color: var(--carmine); font-weight: 600; }
</style>
