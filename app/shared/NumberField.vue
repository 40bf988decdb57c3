<script setup lang="ts">
/**
 * A figure with its unit, typed with a comma or a point. What cannot be stays in the field with the reason below it and
 * is not handed on; an empty field is `null` where that means something.
 */
const {
  value, label = undefined, name = undefined, unit = undefined, min = -Infinity, max = Infinity, mayBeEmpty = false,
  placeholder = undefined,
} = defineProps<{
  value: number | null
  label?: string
  /** What it is called where no label is shown. */
  name?: string
  unit?: string
  min?: number
  max?: number
  mayBeEmpty?: boolean
  placeholder?: string
}>()
const emit = defineEmits<{
  /** The figure is typed, and can be. */
  set: [value: number | null]
  /** A figure that can be, while it is being typed. */
  typing: [value: number]
}>()

const typed = ref<number | null>(value)
const problem = ref('')
watch(() => value, now => (typed.value = now, problem.value = ''))

const range = computed(() => {
  const of = unit ? ` ${unit}` : ''
  if (min > -Infinity && max < Infinity) return `A number from ${min} to ${max}${of}.`
  if (min > -Infinity) return `A number from ${min}${of} up.`
  return max < Infinity ? `A number up to ${max}${of}.` : 'A number.'
})

function commit() {
  const now = typed.value
  if (now === null ? !mayBeEmpty : now < min || now > max) {
    problem.value = `${now === null ? '' : `${now} cannot be. `}${range.value}`
    return
  }
  problem.value = ''
  if (now !== value) emit('set', now)
}

watch(typed, (now) => {
  // What can be again is not called wrong until the field is left: the page below it stays where it is.
  if (now === null ? mayBeEmpty : now >= min && now <= max) problem.value = ''
  if (now !== null && now !== value && now >= min && now <= max) emit('typing', now)
})

/** The component knows one sign for the decimals: the other one is written as that. */
function onlyPoints(event: InputEvent) {
  if (!event.data?.includes(',')) return
  event.preventDefault()
  event.stopPropagation()
  document.execCommand('insertText', false, event.data.replaceAll(',', '.'))
}

function leave() {
  typed.value = value
  problem.value = ''
}
</script>

<template>
  <v-number-input
    v-model="typed"
    class="figures"
    :label="label"
    :aria-label="name"
    :suffix="unit"
    :placeholder="placeholder"
    :error-messages="problem"
    @beforeinput.capture="onlyPoints"
    @keydown.enter="commit"
    @keydown.esc="leave"
    @blur="commit"
  />
</template>
