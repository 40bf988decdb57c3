<script setup lang="ts">
import type { SupplyUnit } from '~~/core/catalogue/types'
import { boardPower, meetsWish } from '~~/core/facts/board'
import { boardsMatching, nextQuestion, QUESTIONS } from '~~/core/catalogue/recognise'

/** Take stock: which board by what one sees on it, which supply, what the project is about. */
const project = useProjectStore()
const view = useViewStore()
const boards = computed(() => [...project.catalogue.boards.values()])
const answers = ref<Record<string, string>>({})
const matching = computed(() => boardsMatching(answers.value, boards.value))
const question = computed(() => nextQuestion(answers.value, boards.value))
const asked = computed(() => QUESTIONS.filter(entry => entry.id in answers.value))
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

/** What the supply lacks for the board; null where it gives enough, and where a converter has to make the 5 V first. */
function short(supply: SupplyUnit): string | null {
  const board = chosenBoard.value
  const met = board && meetsWish(board, supply, supply.currentMa)
  if (met === 'below-least') return `below the ${milliamps(boardPower(board!).leastSupplyMa)} that this board starts with`
  return met === 'below-advised' ? `below the ${milliamps(board!.advisedSupplyMa.value)} advised for this board` : null
}

const answered = ({ id, answers: offered }: (typeof asked.value)[number]) =>
  offered.find(answer => answer.value === answers.value[id])?.label
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
      class="asking"
      data-test="recognise"
    >
      <button
        v-for="entry in asked"
        :key="entry.id"
        class="answered"
        :aria-label="`${entry.text} Answered: ${answered(entry)}. Press to take it back.`"
        @click="answers = Object.fromEntries(Object.entries(answers).filter(([id]) => id !== entry.id))"
      >
        {{ entry.answers.find(answer => answer.value === answers[entry.id])?.label }} ✕
      </button>
      <fieldset v-if="question">
        <legend>{{ question.text }} <span class="quiet small">{{ question.hint }}</span></legend>
        <v-btn
          v-for="answer in question.answers"
          :key="answer.value"
          size="small"
          variant="outlined"
          :data-test="`sign-${answer.value}`"
          @click="answers = { ...answers, [question.id]: answer.value }"
        >
          {{ answer.label }}
        </v-btn>
      </fieldset>
      <p
        v-else
        class="small"
        role="status"
      >
        {{ matching.length === 1 ? `It is this one: ${matching[0]!.name}.` : matching.length
          ? `${matching.length} boards look like that: compare them below.`
          : 'No board in the catalogue looks like that. Take an answer back, or make a board of your own from the nearest one.' }}
      </p>
    </div>
    <div
      class="choices"
      role="radiogroup"
      aria-labelledby="boards"
    >
      <button
        v-for="board in matching"
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
        <span class="figures small quiet">draws {{ milliamps(board.draw.typicalMa) }} typically, {{ milliamps(board.draw.peakMa) }} at peak
          ({{ board.draw.origin }}) · supply advised {{ milliamps(board.advisedSupplyMa.value) }}
          ({{ board.advisedSupplyMa.origin }})</span>
      </button>
    </div>
    <LazyOwnEntries kind="board" />
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
          v-if="short(supply)"
          class="small less"
        >{{ short(supply) }}</span>
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
.asking {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
  border-left: 4px solid var(--copper);
  padding: 4px 10px;
  margin-bottom: 10px;
  min-height: 34px;
}
.asking fieldset { border: 0; padding: 0; display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.asking legend { float: left; font-weight: 600; font-size: 13.5px; margin-right: 8px; }
.asking :deep(.v-btn) { height: auto; min-height: 28px; }
.asking :deep(.v-btn__content) { white-space: normal; }
.answered {
  border: 1px solid var(--copper);
  background: var(--copper-wash);
  color: inherit;
  border-radius: 3px;
  font: inherit;
  font-size: 13px;
  padding: 2px 8px;
  cursor: pointer;
}
h2 { margin: 14px 0 6px; }
.choices { display: grid; gap: 10px; grid-template-columns: repeat(auto-fill, minmax(330px, 1fr)); }
.choices.narrow { grid-template-columns: repeat(auto-fill, minmax(240px, 1fr)); }
.choice {
  text-align: left;
  font: inherit;
  color: inherit;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 4px;
  padding: 10px 12px;
  cursor: pointer;
  display: grid;
  gap: 3px;
  align-content: start;
}
.choice:hover { border-color: var(--copper); }
.choice[aria-checked=true] { border-color: var(--copper); box-shadow: inset 6px 0 var(--copper); padding-left: 18px; }
.seen { margin: 2px 0; padding-left: 18px; font-size: 13px; }
.less { color: var(--ochre); }
.notes textarea {
  width: 100%;
  max-width: 760px;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: var(--sheet);
  color: inherit;
  font: inherit;
  padding: 8px 10px;
  resize: vertical;
}
.story { margin-top: 12px; max-width: 70ch; }
</style>
