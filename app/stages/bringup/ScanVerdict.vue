<script setup lang="ts">
/** A scan held against the plan: there, missing, unexpected. */
import { hexAddress, type ScanVerdict } from '~~/core/bringup/grid'

defineProps<{ verdict: ScanVerdict }>()
</script>

<template>
  <ul class="verdict">
    <li
      v-for="entry in verdict.present"
      :key="entry.address"
      class="present"
    >
      <span class="word">there</span> <span class="figures">{{ hexAddress(entry.address) }}</span> {{ entry.names.join(' and ') }}<span
        v-if="entry.held"
        class="quiet"
      > · held by its driver</span>
    </li>
    <li
      v-for="entry in verdict.missing"
      :key="entry.address"
      class="missing"
    >
      <span class="word">missing</span> <span class="figures">{{ hexAddress(entry.address) }}</span> {{ entry.names.join(' and ') }}: check
      its supply and ground, then SDA and SCL for being swapped, then its address strap
    </li>
    <li
      v-for="entry in verdict.unexpected"
      :key="entry.address"
      class="unexpected"
    >
      <span class="word">unexpected</span> <span class="figures">{{ hexAddress(entry.address) }}</span> nothing in the plan answers
      there{{ verdict.missing.length ? '; it may be a part with another strap' : '' }}
    </li>
    <li
      v-for="entry in verdict.untested"
      :key="entry.address"
    >
      <span class="word">not asked</span> <span class="figures">{{ hexAddress(entry.address) }}</span> {{ entry.names.join(' and ') }}
    </li>
    <li v-if="!verdict.present.length && !verdict.missing.length && !verdict.unexpected.length && !verdict.untested.length">
      Nothing answered, and nothing was expected to.
    </li>
  </ul>
</template>

<style scoped>
.verdict { list-style: none; margin: 6px 0; padding: 0; display: grid; gap: 3px; }
li { padding: 2px 8px; border-left: 5px solid var(--ink-2); }
.word { font-weight: 700; }
.present { border-color: var(--moss); }
.missing { border-color: var(--carmine); background: var(--carmine-wash); }
.unexpected { border-left-style: dashed; border-color: var(--ochre); background: var(--ochre-wash); }
</style>
