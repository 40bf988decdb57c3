<script setup lang="ts" generic="T extends { id: string }">
/** One of several, each with more to say than a line: by pointer, by touch, and by arrow keys as radio buttons are. */
const { items, chosen } = defineProps<{
  items: readonly T[]
  chosen: string | null
  /** Id of the heading that names the list. */
  labelledBy: string
  /** Begins the names by which tests find the choices. */
  test: string
}>()
const emit = defineEmits<{ choose: [id: string], look: [id: string | null] }>()
const list = useTemplateRef<HTMLElement>('list')
/** The one that the tab key comes to. */
const reached = computed(() => items.some(item => item.id === chosen) ? chosen : items[0]?.id)

function step(event: KeyboardEvent, at: number) {
  const by = ({ ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 } as Record<string, number>)[event.key]
  if (!by) return
  event.preventDefault()
  const next = (at + by + items.length) % items.length
  list.value?.querySelectorAll<HTMLElement>('[role=radio]')[next]?.focus()
  emit('choose', items[next]!.id)
}
</script>

<template>
  <div
    ref="list"
    role="radiogroup"
    :aria-labelledby="labelledBy"
  >
    <v-card
      v-for="(item, i) in items"
      :key="item.id"
      role="radio"
      class="choice"
      variant="flat"
      rounded="sm"
      :ripple="false"
      :aria-checked="item.id === chosen"
      :tabindex="item.id === reached ? 0 : -1"
      :data-test="`${test}-${item.id}`"
      @click="emit('choose', item.id)"
      @keydown.enter.prevent="emit('choose', item.id)"
      @keydown.space.prevent="emit('choose', item.id)"
      @keydown="step($event, i)"
      @mouseenter="emit('look', item.id)"
      @mouseleave="emit('look', null)"
      @focus="emit('look', item.id)"
      @blur="emit('look', null)"
    >
      <slot :item="item" />
    </v-card>
  </div>
</template>

<style scoped>
.choice.choice { background: var(--sheet); border: 1px solid var(--rule); padding: 7px 12px; cursor: pointer; overflow: visible; }
.choice:hover { border-color: var(--copper); }
.choice[aria-checked=true] { border-color: var(--copper); box-shadow: inset 6px 0 var(--copper); padding-left: 18px; }
</style>
