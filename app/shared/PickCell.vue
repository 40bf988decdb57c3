<script setup lang="ts" generic="V extends string">
/** A choice inside a table: as small as the word it shows; its list comes when it is pressed. */
const { value, choices, name } = defineProps<{
  value: V
  choices: readonly { value: V, title: string }[]
  /** What is chosen here, for readers: "Step 2: Modem". */
  name: string
  /** Not the usual value. */
  isSet?: boolean
}>()
const emit = defineEmits<{ pick: [value: V] }>()
const shown = computed(() => choices.find(choice => choice.value === value)?.title ?? value)
</script>

<template>
  <v-menu>
    <template #activator="{ props: menu }">
      <v-btn
        variant="text"
        size="x-small"
        class="cell"
        :class="{ set: isSet }"
        :aria-label="`${name}: ${shown}`"
        v-bind="menu"
      >
        <slot>{{ shown }}</slot>
      </v-btn>
    </template>
    <v-list
      :selected="[value]"
      :aria-label="name"
    >
      <v-list-item
        v-for="choice in choices"
        :key="choice.value"
        :value="choice.value"
        :title="choice.title"
        @click="emit('pick', choice.value)"
      >
        <template
          v-if="$slots.mark"
          #prepend
        >
          <slot
            name="mark"
            :value="choice.value"
          />
        </template>
      </v-list-item>
    </v-list>
  </v-menu>
</template>

<style scoped>
.cell { font-weight: 500; border: 1px solid transparent; justify-content: start; padding: 0 6px; min-width: 44px; }
.cell:hover { border-color: var(--rule); }
.set { border-color: var(--copper); font-weight: 650; }
</style>
