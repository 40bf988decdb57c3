<script setup lang="ts">
/** Asks for files. Without a label it shows nothing by itself, and is opened by whoever holds it. */
const { label = undefined, accept, multiple = false, test } = defineProps<{
  label?: string
  accept: string
  multiple?: boolean
  test: string
}>()
const emit = defineEmits<{ files: [files: File[]] }>()
const field = useTemplateRef<{ $el: HTMLElement }>('field')
const open = () => field.value?.$el.querySelector('input')?.click()
function take(picked: File | File[] | null) {
  const files = Array.isArray(picked) ? picked : picked ? [picked] : []
  if (files.length) emit('files', files)
}
defineExpose({ open })
// Two elements: what is said of it is meant for the button.
defineOptions({ inheritAttrs: false })
</script>

<template>
  <v-btn
    v-if="label"
    variant="outlined"
    v-bind="$attrs"
    @click="open"
  >
    {{ label }}
    <slot />
  </v-btn>
  <v-file-input
    ref="field"
    class="field"
    :model-value="multiple ? [] : null"
    :accept="accept"
    :multiple="multiple"
    :aria-label="label ?? 'Files'"
    :data-test="test"
    @update:model-value="take"
  />
</template>

<style scoped>
.field { display: none; }
</style>
