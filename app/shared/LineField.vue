<script setup lang="ts">
/**
 * One line of text, handed on when it is left or with Enter. What does not fit stays in the field with the reason below
 * it; an empty field is `undefined`.
 */
const { value, label, pattern = undefined, says = '', placeholder = undefined, max = 300,
  test = undefined } = defineProps<{
  value: string | undefined
  label: string
  pattern?: RegExp
  /** What fits, in words: "letters, digits and dashes". */
  says?: string
  placeholder?: string
  max?: number
  test?: string
}>()
const emit = defineEmits<{ set: [value: string | undefined] }>()
const typed = ref(value ?? '')
const problem = ref('')
watch(() => value, now => (typed.value = now ?? '', problem.value = ''))

function commit() {
  const now = typed.value.trim()
  problem.value = now !== '' && pattern && !pattern.test(now) ? `"${now}" does not fit: ${says}.` : ''
  if (!problem.value && now !== (value ?? '')) emit('set', now || undefined)
}
</script>

<template>
  <v-text-field
    v-model="typed"
    :label="label"
    :placeholder="placeholder"
    :maxlength="max"
    :error-messages="problem"
    :data-test="test"
    @blur="commit"
    @keydown.enter="commit"
  />
</template>
