<script setup lang="ts">
/** A dialog with a name, what it is about, and a way out. */
const { title, width = 620, test } = defineProps<{ title: string, width?: number, test: string }>()
const open = defineModel<boolean>({ default: true })
const emit = defineEmits<{ close: [] }>()
watch(open, isOpen => !isOpen && emit('close'))
</script>

<template>
  <v-dialog
    v-model="open"
    :max-width="width"
    :aria-label="title"
    scrollable
  >
    <v-card
      :title="title"
      :data-test="test"
    >
      <v-card-text tabindex="0">
        <slot />
      </v-card-text>
      <v-card-actions>
        <slot name="acts" />
        <v-spacer />
        <v-btn
          color="primary"
          variant="text"
          @click="open = false"
        >
          Close
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
