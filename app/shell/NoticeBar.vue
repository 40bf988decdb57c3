<script setup lang="ts">
/**
 * What just happened, with a way back where there is one. Each notice has its whole time, also one that takes the
 * place of another.
 */
import { useTimeoutFn } from '@vueuse/core'

const view = useViewStore()
const { start, stop } = useTimeoutFn(() => view.notice = null, () => view.notice?.tone === 'stop' ? 12_000 : 7_000,
  { immediate: false })
watch(() => view.notice, notice => notice ? start() : stop(), { immediate: true })

function act() {
  view.notice?.action?.run()
  view.notice = null
}
</script>

<template>
  <v-snackbar
    :model-value="!!view.notice"
    :timeout="-1"
    location="bottom center"
    color="secondary"
    class="notice"
    @pointerenter="stop"
    @pointerleave="view.notice && start()"
    @update:model-value="open => { if (!open) view.notice = null }"
  >
    <span data-test="notice">{{ view.notice?.text }}</span>
    <template #actions>
      <v-btn
        v-if="view.notice?.action"
        variant="text"
        @click="act"
      >
        {{ view.notice.action.label }}
      </v-btn>
      <v-btn
        variant="text"
        @click="view.notice = null"
      >
        Close
      </v-btn>
    </template>
  </v-snackbar>
</template>

<style scoped>
.notice :deep(.v-snackbar__wrapper) { margin-bottom: 70px; max-width: 720px; }
</style>
