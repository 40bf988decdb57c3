<script setup lang="ts">
/** The keys of a matrix as they lie: which the kernel is told, and what each types. */
import { capOf, keyAt, keyTyping, matrixSize } from '~~/core/host/matrix'
import { KEYS } from '~~/core/host/keys'
import type { MatrixKey } from '~~/core/plan/host-shape'

const { partId } = defineProps<{ partId: string }>()
const project = useProjectStore()
const { host, set } = useHost()
const owner = computed(() => project.facts!.parts.find(({ id }) => id === partId)!)
const size = computed(() => matrixSize(owner.value)!)
const chosen = ref<{ row: number, column: number } | null>(null)
const NAMES = KEYS.map(([name]) => ({ value: name, title: name.replace('KEY_', '').toLowerCase() }))
const at = (row: number, column: number) => keyAt(partId, row, column, size.value.columns, host.value.matrix)
const key = computed(() => chosen.value ? at(chosen.value.row, chosen.value.column) : null)
const isOwn = (row: number, column: number) => host.value.matrix[partId]?.[`${row}.${column}`] !== undefined
const wires = (row: number, column: number) => `row ${row + 1}, column ${column + 1}`

function write(next: MatrixKey | undefined) {
  if (!chosen.value) return
  const place = `${chosen.value.row}.${chosen.value.column}`
  const { [place]: _, ...rest } = host.value.matrix[partId] ?? {}
  set({ matrix: { ...host.value.matrix, [partId]: next ? { ...rest, [place]: next } : rest } }, 'A key of the matrix')
}

/** A character is typed by the key that has it; one that no key has is put onto this one. */
function types(character: string | undefined) {
  if (!key.value) return
  const { types: _, ...bare } = key.value
  if (character === undefined) return write(bare)
  const has = keyTyping(character)
  if (has && !has.isShifted) write({ code: has.code })
  else write({ ...bare, types: character })
}

function shifted(character: string | undefined) {
  if (!key.value) return
  const { shifted: _, ...bare } = key.value
  write(character === undefined ? bare : { ...bare, types: bare.types ?? capOf(bare), shifted: character })
}
</script>

<template>
  <FoldPanel :title="`Keys of ${owner.name}`">
    <div
      class="keys"
      role="group"
      :aria-label="`Keys of ${owner.name}`"
      :style="{ gridTemplateColumns: `repeat(${size.columns}, minmax(30px, 1fr))` }"
      data-test="key-matrix"
    >
      <template
        v-for="row in size.rows"
        :key="row"
      >
        <v-btn
          v-for="column in size.columns"
          :key="column"
          variant="outlined"
          class="cap figures"
          :class="{ own: isOwn(row - 1, column - 1), chosen: chosen?.row === row - 1 && chosen.column === column - 1 }"
          :aria-label="`${wires(row - 1, column - 1)}: ${capOf(at(row - 1, column - 1))}`"
          :aria-pressed="chosen?.row === row - 1 && chosen.column === column - 1"
          @click="chosen = { row: row - 1, column: column - 1 }"
        >
          {{ capOf(at(row - 1, column - 1)) }}
        </v-btn>
      </template>
    </div>
    <div
      v-if="chosen && key"
      class="fields"
    >
      <v-autocomplete
        :label="`Key at ${wires(chosen.row, chosen.column)}`"
        :items="NAMES"
        :model-value="key.code"
        data-test="key-code"
        @update:model-value="code => code && write({ ...key!, code })"
      />
      <LineField
        label="Types"
        :value="key.types"
        :max="8"
        :pattern="/^\S{1,8}$/u"
        says="one character"
        test="key-types"
        @set="types"
      />
      <LineField
        label="With shift"
        :value="key.shifted"
        :max="8"
        :pattern="/^\S{1,8}$/u"
        says="one character"
        @set="shifted"
      />
      <v-btn
        size="small"
        variant="text"
        @click="write(undefined)"
      >
        As it was
      </v-btn>
    </div>
    <p class="small quiet">
      Press a key as it lies to say what it is. The kernel is told by the part's overlay; what no key of the layout types goes into a file
      of symbols.
    </p>
  </FoldPanel>
</template>

<style scoped>
.keys { display: grid; gap: 4px; margin: 4px 0 10px; overflow-x: auto; }
.cap.cap { min-width: 0; height: 34px; padding: 0 2px; text-transform: none; font-size: 12px; border-color: var(--rule); }
.own { font-weight: 700; border-color: var(--copper) !important; }
.chosen { outline: 2px solid var(--copper); }
.fields { display: grid; grid-template-columns: 2fr 1fr 1fr auto; gap: 8px; align-items: center; }
</style>
