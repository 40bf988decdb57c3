<script setup lang="ts">
/** What each line of the file in view does, in words, with its owner and with what is wrong with it. */
const { file } = defineProps<{ file: string }>()
const emit = defineEmits<{ go: [file: string, line: number] }>()
const { explained, place, findingsAt, applyFix } = useBoot()
const { colourOf, nameOf } = useOwners()
const project = useProjectStore()
const shown = computed(() => explained.value.filter(line => line.file === file))
/** Of a long file only the lines around the one that is looked at are explained. */
const last = computed(() => project.isLate && project.explainedWindow?.file === file ? project.explainedWindow.last : 0)
const STATES = { 'written': '', 'by-hand': 'changed by hand', 'off': 'off' } as const
</script>

<template>
  <ol
    class="explained sheet"
    data-test="explained"
    tabindex="0"
    aria-label="What each line does"
  >
    <li
      v-for="(line, i) in shown"
      :key="i"
      :class="{ here: place?.file === file && place.line === line.line, hidden: line.applies === 'never' }"
    >
      <v-btn
        class="figures number"
        variant="text"
        size="x-small"
        :aria-label="`Go to line ${line.line}`"
        @click="emit('go', line.file, line.line)"
      >
        {{ line.line }}
      </v-btn>
      <div>
        <code class="figures">{{ line.text }}</code>
        <p>{{ line.words }}</p>
        <span
          v-for="id in line.partIds"
          :key="id"
          class="owner small"
          :style="{ '--owner': colourOf(id) }"
        ><span class="owner-swatch" /> {{ nameOf(id) }}</span>
        <span
          v-if="line.owned && STATES[line.owned]"
          class="small state"
        >{{ STATES[line.owned] }}</span>
        <span
          v-if="line.origin && line.origin !== 'memory'"
          class="quiet small"
        >from: {{ line.origin }}</span>
        <template v-if="i === shown.findIndex(entry => entry.line === line.line)">
          <div
            v-for="finding in findingsAt(line.file, line.line)"
            :key="finding.code + finding.from"
            class="trouble small"
            :class="finding.severity"
          >
            <b>{{ finding.title }}.</b> {{ finding.sentence }}
            <div>
              <v-btn
                v-for="fix in finding.fixes"
                :key="fix.label"
                size="x-small"
                color="primary"
                class="grows fix"
                data-test="line-fix"
                @click="applyFix(fix)"
              >
                {{ fix.label }}
              </v-btn>
            </div>
          </div>
        </template>
      </div>
    </li>
    <li
      v-if="shown.length && last > shown.at(-1)!.line - shown[0]!.line + 1"
      class="quiet small none"
      data-test="explained-window"
    >
      Lines {{ shown[0]!.line }} to {{ shown.at(-1)!.line }} of {{ last }} are explained here: go on in the editor, and the list
      follows.
    </li>
    <li
      v-if="shown.some(line => line.origin === 'memory')"
      class="quiet small none"
    >
      Where no source is named, what a line does is from memory.
    </li>
    <li
      v-if="!shown.length"
      class="quiet none"
    >
      {{ project.isReading
        ? 'The file is being read …'
        : file === '' ? 'No line yet that says anything. Type, paste or drop a file.' : 'Nothing to explain here.' }}
    </li>
  </ol>
</template>

<style scoped>
.explained { list-style: none; margin: 0; padding: 4px 0; border-top-left-radius: 0; }
li {
  display: grid;
  grid-template-columns: 34px 1fr;
  gap: 8px;
  padding: 6px 10px 7px 0;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent);
  font-size: 13px;
}
.none { display: block; padding: 12px; }
.number.number { min-width: 0; padding: 0 4px; color: var(--ink-2); align-self: start; }
.here { background: color-mix(in srgb, var(--copper) 10%, transparent); box-shadow: inset 3px 0 0 var(--copper); }
.hidden code { text-decoration: line-through; color: var(--ink-2); }
code { font-size: 12.5px; font-weight: 650; overflow-wrap: anywhere; }
p { overflow-wrap: anywhere; }
.owner { margin-right: 8px; white-space: nowrap; }
.state { color: var(--ochre); font-weight: 650; margin-right: 8px; }
.trouble { margin-top: 5px; padding: 5px 8px; background: var(--paper-2); border-left: 5px solid var(--ink-2); border-radius: 3px; }
.trouble.stop { border-left-color: var(--carmine); background: var(--carmine-wash); }
.trouble.caution { border-left: 5px dashed var(--ochre); background: var(--ochre-wash); }
.fix { margin: 4px 6px 0 0; }
</style>
