<script setup lang="ts">
import { HELP } from './help'

const view = useViewStore()
const { current } = useStages()
const help = computed(() => HELP[current.value.id])
</script>

<template>
  <div
    class="help"
    data-test="help"
  >
    <h2>{{ current.name }}</h2>
    <p>{{ help.for }}</p>
    <ol>
      <li
        v-for="step in help.steps"
        :key="step"
      >
        {{ step }}
      </li>
    </ol>
    <h3>Words</h3>
    <dl>
      <template
        v-for="{ word, means } in help.words"
        :key="word"
      >
        <dt>{{ word }}</dt>
        <dd>{{ means }}</dd>
      </template>
    </dl>
    <div class="ways">
      <v-btn
        size="small"
        variant="outlined"
        @click="view.tour = 0"
      >
        A short tour
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        @click="view.keysOpen = true"
      >
        Keys
      </v-btn>
    </div>
    <p class="small quiet">
      Mains voltage, large batteries and anything that moves or heats can hurt you: what is said here does not take the place of the rules
      where you live, nor of a person who is licensed for that work.
    </p>
  </div>
</template>

<style scoped>
.help { padding: 10px 14px 20px; display: grid; gap: 10px; font-size: 13.5px; }
ol { margin: 0; padding-left: 18px; display: grid; gap: 6px; }
dl { margin: 0; display: grid; gap: 2px; }
dt { font-weight: 650; margin-top: 4px; }
dd { margin: 0; color: var(--ink-2); }
.ways { display: flex; gap: 8px; }
</style>
