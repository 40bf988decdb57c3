<script setup lang="ts">
/** What a curve says beside the prediction, and the figures of it that the plan may go by. */
import type { JudgedCurve } from '~~/core/curves/judge'
import { heatWithFigure } from '~~/core/facts/heat'
import type { KeptCurve } from '~~/core/plan/types'
import { newId } from '~/database/id'
import { lasting } from './lasting'

const { curve, judged } = defineProps<{ curve: KeptCurve, judged: JudgedCurve }>()
const project = useProjectStore()
const view = useViewStore()
const early = computed(() => judged.fit?.isSettled ? '' : '; it was stopped early: the end is a guess')

function takeHeat(): void {
  const { measured } = judged.heat!
  project.edit({ edit: 'all', edits: [
    { edit: 'set-power', power: { heat: heatWithFigure(project.facts!, { measured: measured! }) } },
    { edit: 'log', entry: { id: newId(), at: new Date().toISOString(), stage: 'power',
      text: `Processor to air measured: ${measured!.coolerKw} K/W, from ${curve.name}.` } },
  ] }, 'Take the cooler as measured')
  view.say('The load test of the Power stage goes on with what was measured.')
}
function takeStore(): void {
  const { node, capacityMah, name } = judged.store!
  project.edit({ edit: 'all', edits: [
    { edit: 'set-figure', node, figure: 'capacityMah', value: capacityMah },
    { edit: 'log', entry: { id: newId(), at: new Date().toISOString(), stage: 'power',
      text: `${name} measured: ${capacityMah} mAh, from ${curve.name}.` } },
  ] }, 'Take the capacity as measured')
  view.say(`${name} has ${capacityMah} mAh in this plan from now on.`)
}
const isHeatTaken = computed(() => {
  const { measured, coolerKw } = project.facts!.heat.set
  return coolerKw === undefined && measured !== undefined
    && JSON.stringify(measured) === JSON.stringify(judged.heat?.measured)
})
</script>

<template>
  <div>
    <p
      v-if="judged.fit"
      class="small figures"
      data-test="curve-fit"
    >
      From {{ judged.fit.start.toFixed(2) }} to {{ judged.fit.end.toFixed(2) }} {{ curve.unit }}, τ {{ lasting(judged.fit.tauS) }},
      left over {{ judged.fit.rms.toPrecision(2) }} {{ curve.unit }}{{ early }}
    </p>
    <p
      v-else
      class="small quiet"
    >
      It does not go from one rest to another: nothing is fitted.
    </p>
    <template v-if="judged.heat">
      <p class="small">
        Of the load test this plan predicts {{ judged.heat.predictedEndC.toFixed(1) }} °C at the end; measured
        {{ judged.fit!.end.toFixed(1) }} °C.
      </p>
      <p
        v-if="judged.heat.why"
        class="small quiet"
      >
        {{ judged.heat.why }}
      </p>
      <p
        v-else-if="isHeatTaken"
        class="small"
      >
        This plan goes by it: {{ judged.heat.measured!.coolerKw }} K/W from processor to air, measured.
      </p>
      <v-btn
        v-else
        size="small"
        variant="outlined"
        data-test="take-heat"
        @click="takeHeat"
      >
        Take {{ judged.heat.measured!.coolerKw }} K/W as measured
      </v-btn>
    </template>
    <template v-if="judged.store">
      <p class="small">
        If it stopped at the last reading, {{ judged.store.name }} lasted {{ judged.store.measuredH.toFixed(1) }} h; predicted
        {{ judged.store.predictedH.toFixed(1) }} h.
      </p>
      <v-btn
        size="small"
        variant="outlined"
        data-test="take-store"
        @click="takeStore"
      >
        Take {{ judged.store.capacityMah }} mAh as measured
      </v-btn>
    </template>
  </div>
</template>
