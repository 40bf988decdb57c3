<script setup lang="ts">
/** A file that was not taken in, and every reason for it. */
import type { Problem } from '~~/core/documents/failure'

defineProps<{ file: string, problems: readonly Problem[] }>()
const emit = defineEmits<{ close: [] }>()
const MAX = 12
</script>

<template>
  <section
    class="refused"
    role="alert"
    data-test="refused"
  >
    <h2>"{{ file }}" was not taken in; nothing of it was kept</h2>
    <ul>
      <li
        v-for="problem in problems.slice(0, MAX)"
        :key="problem.path + problem.message"
      >
        <code
          v-if="problem.path"
          class="figures"
        >{{ problem.path }}</code> {{ problem.message }}
      </li>
    </ul>
    <p v-if="problems.length > MAX">
      and {{ problems.length - MAX }} more.
    </p>
    <v-btn
      size="small"
      variant="outlined"
      @click="emit('close')"
    >
      Close
    </v-btn>
  </section>
</template>
