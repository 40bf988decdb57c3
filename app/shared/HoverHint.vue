<script setup lang="ts">
/**
 * The hint of the element that it stands in. The library's tooltip is made when somebody first comes near: a page with
 * a hundred buttons has none to begin with.
 */
import { useEventListener } from '@vueuse/core'

defineProps<{ text: string }>()
const met = ref(false)
const open = ref(false)
const around = shallowRef<HTMLElement | null>(null)
const instance = getCurrentInstance()!
onMounted(() => around.value = (instance.proxy!.$el as Node).parentElement)

/** From the second time on the tooltip hears of it by itself. */
async function meet(shows: boolean) {
  if (met.value) return
  met.value = true
  await nextTick()
  open.value = shows
}
useEventListener(around, 'pointerenter', ({ pointerType }: PointerEvent) => void meet(pointerType !== 'touch'))
useEventListener(around, 'focusin', () => void meet(around.value!.matches(':focus-visible')))
</script>

<template>
  <v-tooltip
    v-if="met"
    v-model="open"
    activator="parent"
    :text="text"
    :aria-label="text"
  />
</template>
