<script setup lang="ts">
/** One figure of a worksheet: label, number, unit. What cannot be read as a number above the least is said and not taken. */
const { label, unit = '', least = 0, open = true } = defineProps<{ label: string, unit?: string, least?: number, open?: boolean }>()
const value = defineModel<number>({ required: true })
const wrong = ref(false)

function read(event: Event) {
  const number = Number((event.target as HTMLInputElement).value.trim().replace(',', '.'))
  wrong.value = !Number.isFinite(number) || (open ? number <= least : number < least)
  if (!wrong.value) value.value = number
}
</script>

<template>
  <label class="field">
    <span>{{ label }}</span>
    <input
      :value="value"
      class="figures"
      inputmode="decimal"
      :aria-invalid="wrong"
      @input="read"
    >
    <span class="unit">{{ unit }}</span>
    <span
      v-if="wrong"
      class="wrong"
    >a number above {{ least }}</span>
  </label>
</template>

<style scoped>
.field { display: grid; grid-template-columns: minmax(130px, 1fr) 104px 44px; gap: 6px; align-items: center; font-size: 13.5px; }
input { border: 1px solid var(--rule); border-radius: 3px; background: var(--sheet); color: inherit; padding: 3px 6px; text-align: right; }
input[aria-invalid=true] { border-color: var(--carmine); }
.unit { color: var(--ink-2); font-size: 12.5px; }
.wrong { grid-column: 1 / -1; color: var(--carmine); font-size: 12px; }
</style>
