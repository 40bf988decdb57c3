<script setup lang="ts">
/** One project of the list. */
import type { Head } from '~/database/projects'
import type { Glance } from './useGlances'
import { shippedCatalogue } from '~~/core/catalogue'

const { head, chosen, glance } = defineProps<{ head: Head, chosen: boolean, glance: Glance | null }>()
const emit = defineEmits<{
  choose: [isChosen: boolean]
  rename: [name: string]
  duplicate: []
  export: []
  remove: []
}>()

const boardName = computed(() =>
  head.board ? shippedCatalogue.boards.get(head.board)?.name ?? head.board : 'no board yet')
const renaming = ref(false)
const name = ref('')

function begin() {
  name.value = head.name
  renaming.value = true
}

function end(isKept: boolean) {
  if (!renaming.value) return
  renaming.value = false
  if (isKept) emit('rename', name.value)
}
</script>

<template>
  <li class="row">
    <v-checkbox-btn
      :model-value="chosen"
      :aria-label="`Choose ${head.name}`"
      density="compact"
      class="box"
      @update:model-value="value => emit('choose', !!value)"
    />
    <div class="main">
      <v-text-field
        v-if="renaming"
        v-model="name"
        label="New name"
        maxlength="300"
        autofocus
        @blur="end(true)"
        @keydown.enter="end(true)"
        @keydown.esc="end(false)"
      />
      <NuxtLink
        v-else
        :to="`/project/${head.id}/${head.board ? 'wiring' : 'board'}`"
        class="name"
      >
        {{ head.name }}
      </NuxtLink>
      <p class="quiet small figures-line">
        <span>{{ boardName }}</span>
        <span>{{ head.parts }} {{ head.parts === 1 ? 'part' : 'parts' }}</span>
        <b
          v-if="glance?.stops"
          class="stops"
        >{{ glance.stops }} {{ glance.stops === 1 ? 'stop' : 'stops' }}</b>
        <span
          v-if="glance?.cautions"
          class="cautions"
        >{{ glance.cautions }} {{ glance.cautions === 1 ? 'caution' : 'cautions' }}</span>
        <span
          v-if="glance && !glance.stops && !glance.cautions && head.parts"
          class="clear"
        >clear</span>
        <span v-if="head.updatedAt">changed {{ dayAndTime(head.updatedAt) }}</span>
      </p>
      <p
        v-if="head.trouble"
        class="trouble"
      >
        Cannot be opened: {{ head.trouble.message }}. The record is left as it is; open it to see what can be done.
      </p>
      <p
        v-else-if="head.story"
        class="story"
      >
        {{ head.story }}
      </p>
      <p
        v-if="!head.trouble"
        class="small last"
      >
        {{ glance?.lastWord ? `Logbook: ${glance.lastWord}` : '' }}
      </p>
    </div>
    <div class="picture">
      <MiniHeader
        v-if="glance?.cells.length"
        :cells="glance.cells"
        :label="`Header: ${glance.cells.filter(Boolean).length} of ${glance.cells.length} positions held`"
      />
    </div>
    <div class="acts">
      <v-btn
        v-if="!head.trouble"
        size="small"
        variant="text"
        @click="begin"
      >
        Rename
      </v-btn>
      <v-btn
        v-if="!head.trouble"
        size="small"
        variant="text"
        @click="emit('duplicate')"
      >
        Duplicate
      </v-btn>
      <v-btn
        size="small"
        variant="text"
        @click="emit('export')"
      >
        {{ head.trouble ? 'Save the record' : 'Export' }}
      </v-btn>
      <v-btn
        size="small"
        variant="text"
        color="error"
        @click="emit('remove')"
      >
        Delete
      </v-btn>
    </div>
  </li>
</template>

<style scoped>
.row { display: flex; gap: 10px; padding: 12px 0; border-bottom: 1px solid var(--rule); align-items: flex-start; }
.box { flex: none; margin-top: -4px; }
.main { flex: 1; min-width: 0; }
.name {
  display: inline-block;
  min-height: 26px;
  font-size: 16.5px;
  font-weight: 650;
  color: var(--ink);
  text-decoration-color: var(--copper);
  text-underline-offset: 3px;
  overflow-wrap: anywhere;
}
.story { margin-top: 4px; max-width: 70ch; overflow-wrap: anywhere; }
.trouble { margin-top: 4px; max-width: 70ch; color: var(--carmine); }
.figures-line { display: flex; flex-wrap: wrap; gap: 0 12px; }
.stops { color: var(--carmine); }
.cautions { color: var(--ochre); }
.clear { color: var(--moss); }
/* Room is kept for what is still being worked out: nothing moves under the pointer. */
.last { min-height: 1.4em; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; max-width: 70ch; }
.picture { flex: 0 0 124px; min-height: 26px; margin-top: 4px; }
.acts { display: flex; flex-wrap: wrap; justify-content: flex-end; }
@media (max-width: 900px) { .row { flex-wrap: wrap; } .acts { justify-content: flex-start; } .main { flex-basis: 80%; } }
</style>
