<script setup lang="ts">
/** A serial rate at both ends: dividers, errors, what a byte takes. */
import { bytesPerSecond, bitsPerByte, MOST_DIFFERENCE, partSerialRate, SAFE_ERROR, serialRate } from '~~/core/signals/rates'
import type { Worksheet } from '~~/core/worksheets'
import type { ResultRow } from './ResultRows.vue'

const { given } = defineProps<{ given: Extract<Worksheet, { kind: 'serial' }> }>()
const emit = defineEmits<{ change: [sheet: Worksheet] }>()
const sourceHz = ref(given.sourceHz)
const divider = ref(given.divider)
const baud = ref(given.baud)
const partHz = ref(given.partHz)
const partDivider = ref<'sixteenth' | 'eighth'>('eighth')
const frame = ref(given.frame)
const percent = (share: number) => `${share > 0 ? '+' : ''}${(share * 100).toFixed(3)} %`

const rows = computed<ResultRow[]>(() => {
  const board = serialRate({ sourceHz: sourceHz.value, divider: divider.value }, baud.value)
  if (!board) return [{ label: 'out of reach', value: '—', limit: 'The divider has no step for this rate.', holds: false }]
  const part = partHz.value > 0 ? partSerialRate({ sourceHz: partHz.value, divider: partDivider.value }, baud.value) : null
  const apart = (board.rateHz - (part?.rateHz ?? baud.value)) / baud.value
  const origin = divider.value === 'eighth' ? 'memory: clock ÷ 8·(n+1)' : 'published: Arm DDI 0183'
  return [
    { label: 'board divides by', value: board.divider, origin },
    {
      label: 'board makes', value: `${board.rateHz.toFixed(2)} baud`, limit: `${percent(board.error)} of ±${SAFE_ERROR * 100} %`,
      holds: Math.abs(board.error) <= SAFE_ERROR, origin,
    },
    ...part
      ? [{
          label: 'part makes', value: `${part.rateHz.toFixed(2)} baud`, limit: `${percent(part.error)} of ±${SAFE_ERROR * 100} %`,
          holds: Math.abs(part.error) <= SAFE_ERROR, origin: 'memory',
        }]
      : [],
    {
      label: 'apart', value: percent(apart), limit: `a frame falls apart at ${(MOST_DIFFERENCE * 100).toFixed(1)} %`,
      holds: Math.abs(apart) <= MOST_DIFFERENCE, origin: 'arithmetic: half a bit in 9.5',
    },
    {
      label: 'carries', value: `${Math.floor(bytesPerSecond(baud.value, frame.value))} bytes/s`,
      limit: `${bitsPerByte(frame.value)} bit times a byte`, origin: 'arithmetic',
    },
  ]
})
watch(
  () => ({
    kind: given.kind, sourceHz: sourceHz.value, divider: divider.value, baud: baud.value, partHz: partHz.value, frame: frame.value,
  }),
  sheet => emit('change', sheet),
)
</script>

<template>
  <div class="sheet-body">
    <div class="inputs">
      <WorkField
        v-model="baud"
        label="Rate"
        unit="baud"
      />
      <label class="text"><span>Frame</span><select v-model="frame"><option
        v-for="option in ['8N1', '8E1', '8O1', '7E1', '8N2']"
        :key="option"
      >{{ option }}</option></select></label>
      <WorkField
        v-model="sourceHz"
        label="Board's clock"
        unit="Hz"
      />
      <label class="text"><span>Board's divider</span><select v-model="divider"><option value="fractional-64">full port: steps of
        1/64</option><option value="eighth">small port: ÷ 8·(n+1)</option></select></label>
      <WorkField
        v-model="partHz"
        label="Part's clock, 0 if not known"
        unit="Hz"
        :open="false"
      />
      <label class="text"><span>Part's divider</span><select v-model="partDivider"><option value="sixteenth">÷
        16·(n+1)</option><option value="eighth">÷ 8·(n+1)</option></select></label>
    </div>
    <ResultRows :rows="rows" />
  </div>
</template>
