<script setup lang="ts">
/** Take stock: which board by what one sees on it, which supply, what the project is about. */
const project = useProjectStore()
const view = useViewStore()
const boards = [...project.catalogue.boards.values()]
const supplies = [...project.catalogue.supplies.values()]
const chosenBoard = computed(() => project.facts?.board ?? null)

function chooseBoard(id: string) {
  project.edit({ edit: 'choose-board', board: id }, 'Choose the board')
}

function chooseSupply(id: string) {
  project.edit({ edit: 'choose-supply', supply: { type: id } }, 'Choose the supply')
}

function writeNotes(event: Event) {
  project.edit({ edit: 'write-notes', notes: (event.target as HTMLTextAreaElement).value }, 'Write notes', 'notes')
}

function ghostSupply(id: string | null) {
  const report = id && project.preview({ edit: 'choose-supply', supply: { type: id } })
  view.ghost = report ? { label: project.catalogue.supplies.get(id)!.name, report } : null
}
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Board</h1><span class="quiet">take stock of what lies on the table</span>
    </div>
    <h2 id="boards">
      Which board is it?
    </h2>
    <p class="quiet small lead">
      Tell it by what you see, not by its name.
    </p>
    <div
      class="choices"
      role="radiogroup"
      aria-labelledby="boards"
    >
      <button
        v-for="board in boards"
        :key="board.id"
        class="choice"
        role="radio"
        :aria-checked="project.plan!.board === board.id"
        :data-test="`board-${board.id}`"
        @click="chooseBoard(board.id)"
      >
        <b>{{ board.name }}</b>
        <span class="small">{{ board.summary }}</span>
        <ul class="seen">
          <li
            v-for="sign in board.seen"
            :key="sign"
          >
            {{ sign }}
          </li>
        </ul>
        <span class="figures small quiet">draws {{ milliamps(board.draw.typicalMa) }} typically, {{ milliamps(board.draw.peakMa) }} at peak ({{ board.draw.origin }}) · supply advised {{ milliamps(board.advisedSupplyMa.value) }} ({{ board.advisedSupplyMa.origin }})</span>
      </button>
    </div>
    <h2 id="supplies">
      Which supply?
    </h2>
    <div
      class="choices narrow"
      role="radiogroup"
      aria-labelledby="supplies"
    >
      <button
        v-for="supply in supplies"
        :key="supply.id"
        class="choice"
        role="radio"
        :aria-checked="project.plan!.supply?.type === supply.id"
        :data-test="`supply-${supply.id}`"
        @click="chooseSupply(supply.id)"
        @mouseenter="ghostSupply(supply.id)"
        @mouseleave="ghostSupply(null)"
        @focus="ghostSupply(supply.id)"
        @blur="ghostSupply(null)"
      >
        <b>{{ supply.name }}</b>
        <span class="small">{{ supply.summary }}</span>
        <span
          v-if="chosenBoard && supply.currentMa < chosenBoard.advisedSupplyMa.value"
          class="small less"
        >below the {{ milliamps(chosenBoard.advisedSupplyMa.value) }} advised for this board</span>
      </button>
    </div>
    <label class="notes">
      <h2>Notes</h2>
      <textarea
        :value="project.plan!.notes"
        rows="7"
        placeholder="Case, cooling, card, operating-system image, what it is for …"
        data-test="notes"
        @input="writeNotes"
      />
    </label>
    <p
      v-if="project.plan!.story"
      class="quiet story"
    >
      {{ project.plan!.story }}
    </p>
  </div>
</template>

<style scoped>
.lead { margin-bottom: 6px; }
h2 { margin: 14px 0 6px; }
.choices { display: grid; gap: 10px; grid-template-columns: repeat(auto-fill, minmax(330px, 1fr)); }
.choices.narrow { grid-template-columns: repeat(auto-fill, minmax(240px, 1fr)); }
.choice { text-align: left; font: inherit; color: inherit; background: var(--sheet); border: 1px solid var(--rule); border-radius: 4px; padding: 10px 12px; cursor: pointer; display: grid; gap: 3px; align-content: start; }
.choice:hover { border-color: var(--copper); }
.choice[aria-checked=true] { border-color: var(--copper); box-shadow: inset 6px 0 var(--copper); padding-left: 18px; }
.seen { margin: 2px 0; padding-left: 18px; font-size: 13px; }
.less { color: var(--ochre); }
.notes textarea { width: 100%; max-width: 760px; border: 1px solid var(--rule); border-radius: 4px; background: var(--sheet); color: inherit; font: inherit; padding: 8px 10px; resize: vertical; }
.story { margin-top: 12px; max-width: 70ch; }
</style>
