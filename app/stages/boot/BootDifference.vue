<script setup lang="ts">
/** The file as it is against the file with the plan's lines in it. */
import { compareLines } from '~~/core/boot/lines'

const project = useProjectStore()
const { files } = useBoot()
const after = computed(() => project.report!.boot)
/** Longer files are not laid beside each other line by line: what changes is listed. */
const MAX_COMPARED = 200_000
const isLong = computed(() => files.value.text.length > MAX_COMPARED)
const difference = computed(() =>
  isLong.value || project.isReading ? [] : compareLines(files.value.text, after.value.text))
const KINDS = { added: '+', changed: '~', removed: '−', off: '#' } as const
</script>

<template>
  <div class="both">
    <p
      v-if="isLong || project.isReading"
      class="quiet small"
    >
      {{ project.isReading ? 'The file is being read …'
        : 'The file is too long to be laid beside itself line by line; what changes is listed.' }}
    </p>
    <ol
      v-else
      class="difference figures sheet"
      data-test="boot-difference"
      tabindex="0"
      aria-label="Difference"
    >
      <li
        v-for="(line, i) in difference"
        :key="i"
        :class="line.kind"
      >
        <span class="sign">{{ line.kind === 'added' ? '+' : line.kind === 'removed' ? '−' : ' ' }}</span><span
          v-if="line.kind !== 'same'"
          class="only-reader"
        >{{ line.kind }}: </span>{{ line.text || ' ' }}
      </li>
    </ol>
    <ul
      v-if="after.changes.length || after.byHand.length"
      class="why small"
    >
      <li
        v-for="(change, i) in after.changes"
        :key="i"
      >
        <b class="figures">{{ KINDS[change.kind] }} {{ change.after || change.before }}</b> {{ change.why }}
      </li>
      <li
        v-for="entry in after.byHand"
        :key="`hand ${entry.line}`"
        class="hand"
      >
        Line {{ entry.line }} was changed by hand and stays: <b class="figures">{{ entry.found || 'taken out' }}</b>. The plan would write
        <b class="figures">{{ entry.wanted }}</b>.
      </li>
    </ul>
  </div>
</template>

<style scoped>
.both { display: flex; flex-direction: column; gap: 8px; }
.difference {
  list-style: none;
  margin: 0;
  padding: 8px 0;
  font-size: 13px;
  flex: 1;
  min-height: 160px;
  overflow: auto;
  white-space: pre;
  border-top-left-radius: 0;
}
.difference li { padding: 0 10px; min-width: max-content; }
.sign { display: inline-block; width: 16px; color: var(--ink-2); }
.added { background: var(--moss-wash); font-weight: 650; }
.removed { background: var(--carmine-wash); text-decoration: line-through; }
.why { margin: 0; padding: 0 0 0 4px; list-style: none; max-height: 180px; overflow: auto; }
.why li { padding: 2px 0; overflow-wrap: anywhere; }
.hand { color: var(--ochre); }
</style>
