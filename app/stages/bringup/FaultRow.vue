<script setup lang="ts">
/** Faults that explain what was seen, one of them or all together, with their share. */
import type { Fault } from '~~/core/diagnosis/types'

const { share } = defineProps<{
  faults: readonly Fault[]
  share: number
  /** Said below their titles. */
  note?: string
  mend?: string
}>()
const emit = defineEmits<{ where: [] }>()
const percent = computed(() => share > 0.995 ? '100 %' : share < 0.01 ? '<1 %' : `${Math.round(share * 100)} %`)
</script>

<template>
  <li class="candidate">
    <div>
      <p
        v-for="fault in faults"
        :key="fault.id"
      >
        {{ fault.title }}
      </p>
      <p
        v-if="note"
        class="small quiet"
      >
        {{ note }}
      </p>
      <p
        v-if="mend"
        class="small mend"
        data-test="mend"
      >
        {{ mend }}
      </p>
    </div>
    <v-progress-linear
      :model-value="share * 100"
      color="primary"
      height="9"
      :aria-label="`${faults[0]!.title}: ${percent}`"
    />
    <span class="figures share">{{ percent }}</span>
    <v-btn
      size="x-small"
      variant="text"
      :aria-label="`Show where: ${faults[0]!.title}`"
      @click="emit('where')"
    >
      where
    </v-btn>
  </li>
</template>

<style scoped>
.candidate { display: grid; grid-template-columns: minmax(0, 1fr) 70px 52px auto; gap: 8px; align-items: center;
  border-bottom: 1px solid var(--rule); padding: 4px 0; font-size: 14px; line-height: 1.3; overflow-wrap: anywhere; }
.share { text-align: end; font-size: 13px; }
.mend { border-left: 3px solid var(--moss); padding-left: 7px; margin-top: 4px; }
@media (max-width: 600px) {
  .candidate { grid-template-columns: minmax(0, 1fr) 48px auto; }
  .candidate :deep(.v-progress-linear) { display: none; }
}
</style>
