<script setup lang="ts">
/** Take stock: which board by what one sees on it, which supply, what goes with it, and what the project is about. */
const project = useProjectStore()
const { matching, question, asked, answer, takeBack } = useBoard()
const board = computed(() => project.facts?.board ?? null)
/** Who comes with a board chosen has the others folded away; while one is being chosen they stay. */
const choosing = ref(!project.plan!.board)
const isOpen = computed(() => choosing.value || !board.value)

// The checks are fetched once this stage is there.
onMounted(() => requestAnimationFrame(() => setTimeout(() => void project.beJudged())))

function choose(id: string) {
  project.edit({ edit: 'choose-board', board: id }, 'Choose the board')
}

const writeNotes = (notes: string | null) =>
  project.edit({ edit: 'write-notes', notes: notes ?? '' }, 'Write notes', 'notes')
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Board</h1><span class="quiet">take stock of what lies on the table</span>
    </div>
    <section v-if="isOpen">
      <h2 id="boards">
        Which board is it?
      </h2>
      <div
        class="asking"
        data-test="recognise"
      >
        <v-chip
          v-for="entry in asked"
          :key="entry.id"
          closable
          color="primary"
          :close-label="`${entry.text} Answered: ${entry.answer}. Press to take it back.`"
          @click:close="takeBack(entry.id)"
        >
          {{ entry.answer }}
        </v-chip>
        <div
          v-if="question"
          role="group"
          aria-labelledby="question"
          class="question"
        >
          <span id="question"><b>{{ question.text }}</b> <span class="quiet small">{{ question.hint }}</span></span>
          <v-btn
            v-for="entry in question.answers"
            :key="entry.value"
            size="small"
            variant="outlined"
            class="grows"
            :data-test="`sign-${entry.value}`"
            @click="answer(question.id, entry.value)"
          >
            {{ entry.label }}
          </v-btn>
        </div>
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
      <ChoiceList
        class="boards"
        :items="matching"
        :chosen="project.plan!.board"
        labelled-by="boards"
        test="board"
        @choose="choose"
      >
        <template #default="{ item }">
          <BoardFace :board="item" />
        </template>
      </ChoiceList>
      <v-btn
        v-if="board"
        size="small"
        variant="outlined"
        class="done"
        @click="choosing = false"
      >
        That is the one: fold the others away
      </v-btn>
    </section>
    <section
      v-else
      class="sheet chosen"
      data-test="chosen-board"
    >
      <BoardFace :board="board!" />
      <v-btn
        size="small"
        variant="outlined"
        data-test="other-board"
        @click="choosing = true"
      >
        Another board
      </v-btn>
    </section>
    <v-alert
      v-for="caution in board?.cautions ?? []"
      :key="caution"
      color="warning"
      class="caution"
      data-test="board-caution"
    >
      {{ caution }}
    </v-alert>
    <LazyBoardChoice v-if="project.report" />
    <BoardCompanions v-if="board" />
    <SupplyChoices v-if="board" />
    <p
      v-else
      class="quiet"
    >
      The supplies come when it is known which board they have to feed.
    </p>
    <OwnEntries kind="board" />
    <v-textarea
      class="notes"
      label="Notes"
      :model-value="project.plan!.notes"
      rows="4"
      auto-grow
      max-rows="18"
      placeholder="Card, operating-system image, what it is for …"
      data-test="notes"
      @update:model-value="writeNotes"
    />
    <p
      v-if="project.plan!.story"
      class="quiet story"
    >
      {{ project.plan!.story }}
    </p>
  </div>
</template>

<style scoped>
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
.question { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.question > span { margin-right: 6px; }
h2 { margin: 10px 0 6px; }
.boards { display: grid; gap: 8px; grid-template-columns: repeat(auto-fill, minmax(min(100%, 330px), 1fr)); }
.done { margin-top: 8px; }
.chosen {
  border-left: 6px solid var(--copper);
  padding: 8px 14px;
  display: flex;
  gap: 14px;
  align-items: start;
  justify-content: space-between;
  flex-wrap: wrap;
}
.caution { margin-top: 6px; padding-block: 6px; }
.notes { margin-top: 14px; max-width: 760px; }
.story { margin-top: 12px; max-width: 70ch; }
</style>
