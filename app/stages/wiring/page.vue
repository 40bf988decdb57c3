<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { isOpenStop } from '~~/core/findings/set-aside'
import { USUAL_WORKSHEETS } from '~~/core/vocabulary/worksheets'

/** Who sits where: the header, the parts, and every scarce thing as a lane. */
const project = useProjectStore()
const view = useViewStore()
const { colourOf, tagOf } = useOwners()
const { running, place, stop, panelOpen } = usePlacement()
const { copyText, copyPicture } = useRailCopy()
const { go } = useStages()
const { moving, terminal: moved, options, moveTo, stop: stopMoving } = useMove()

const narrow = useMediaQuery('(max-width: 1100px)')
const held = computed(() => project.facts!.atPosition.size)
const total = computed(() => project.facts!.board?.header.length ?? 0)
const elsewhere = computed(() => options.value.filter(option => option.to.terminal !== undefined))
const placedCount = (partId: string) =>
  project.facts!.terminals.filter(terminal => terminal.owner.id === partId && terminal.assignment).length
const stopsOf = (partId: string) =>
  project.report!.findings.some(finding =>
    isOpenStop(finding) && finding.subjects.some(subject => subject.partId === partId))
/** Parts that have something to join; a case or a card is of no matter here. */
const wired = computed(() => {
  const bare = new Set(project.facts!.parts.filter(({ part, signals, supplies, grounds }) =>
    part.thing && !signals.length && !supplies.length && !grounds.length && !part.plugs?.length).map(({ id }) => id))
  return project.plan!.parts.filter(({ id }) => !bare.has(id))
})
</script>

<template>
  <div>
    <div class="stage-head">
      <h1>Wiring</h1>
      <span
        v-if="total"
        class="quiet"
      >{{ held }} of {{ total }} positions held · seen from {{ view.fromBelow ? 'below' : 'above' }}</span>
      <span class="spacer" />
      <v-menu>
        <template #activator="{ props: menu }">
          <v-btn
            size="small"
            variant="outlined"
            v-bind="menu"
            data-test="wiring-more"
          >
            More
          </v-btn>
        </template>
        <v-list density="compact">
          <v-list-item
            title="Turn the header over (o)"
            @click="view.fromBelow = !view.fromBelow"
          />
          <v-list-item
            title="Turn the header around (r)"
            @click="view.turned = !view.turned"
          />
          <v-list-item
            :title="view.large === 'position' ? 'Line numbers large (n)' : 'Position numbers large (n)'"
            @click="view.large = view.large === 'position' ? 'line' : 'position'"
          />
          <v-list-item
            title="Worksheets (w)"
            data-test="open-worksheets"
            @click="view.worksheet = USUAL_WORKSHEETS['pull-up']"
          />
          <v-list-item
            title="Placement: cost and weights"
            data-test="open-placement"
            @click="panelOpen = true"
          />
          <v-list-item
            title="Copy the header as text"
            data-test="copy-text"
            @click="copyText"
          />
          <v-list-item
            title="Copy the header as a picture (SVG)"
            data-test="copy-svg"
            @click="copyPicture"
          />
        </v-list>
      </v-menu>
      <v-btn
        v-if="!narrow"
        size="small"
        variant="outlined"
        @click="view.fromBelow = !view.fromBelow"
      >
        Turn over
      </v-btn>
      <template v-if="running">
        <span
          class="small figures"
          role="status"
        >{{ running.quiet ? 'No sign of life for a while: stop it and try again.' : `${running.nodes} branches …` }}</span>
        <v-btn
          size="small"
          color="primary"
          @click="stop"
        >
          Stop
        </v-btn>
      </template>
      <template v-else>
        <v-btn
          size="small"
          variant="outlined"
          data-test="place-all"
          @click="place('all')"
        >
          Place anew
          <HoverHint text="Only what you fixed stays where it is" />
        </v-btn>
        <v-btn
          size="small"
          color="primary"
          data-test="place-rest"
          @click="place('rest')"
        >
          Place the rest
          <HoverHint text="What is placed stays unless it must move (p)" />
        </v-btn>
      </template>
    </div>
    <div
      v-if="!project.facts!.board"
      class="empty"
    >
      <p>There is no board yet. Choose one on the Board stage, then its header lies here.</p>
      <v-btn
        size="small"
        color="primary"
        @click="go('board')"
      >
        To the Board stage
      </v-btn>
    </div>
    <template v-else>
      <HeaderRail />
      <div
        v-if="moving"
        class="move-bar"
        role="status"
      >
        <span>Moving <b>{{ moved?.owner.name }} {{ moved?.label }}</b>: press a position outlined in green. Dashed ones are taken.</span>
        <v-select
          v-if="elsewhere.length"
          class="elsewhere"
          label="or another part"
          :items="elsewhere.map((option, i) => ({ value: i, title: `${option.label}${option.takenBy.length ? ' (taken)' : ''}` }))"
          :model-value="null"
          @update:model-value="i => moveTo(moving!, elsewhere[Number(i)]!)"
        />
        <v-btn
          size="small"
          variant="outlined"
          @click="stopMoving"
        >
          Leave it
        </v-btn>
      </div>
      <div
        class="chips"
        role="group"
        aria-label="Parts"
      >
        <v-chip
          v-for="part in wired"
          :key="part.id"
          tag="button"
          class="chip"
          :class="{ chosen: view.partId === part.id, marked: view.markedParts.has(part.id) }"
          :style="{ '--owner': colourOf(part.id) }"
          :aria-pressed="view.partId === part.id"
          :data-test="`chip-${part.id}`"
          @click="view.choosePart(view.partId === part.id ? null : part.id)"
        >
          <span
            class="chip-tag figures"
            aria-hidden="true"
          >{{ tagOf(part.id) }}</span><span class="chip-name">{{ part.name }}</span>
          <span
            v-if="placedCount(part.id)"
            class="figures quiet"
          >{{ placedCount(part.id) }}</span>
          <span
            v-if="stopsOf(part.id)"
            class="stop-tag"
          >stop</span>
        </v-chip>
        <p
          v-if="!project.plan!.parts.length"
          class="quiet"
        >
          No part yet: add some on the Parts stage.
        </p>
      </div>
      <PlacementPanel v-if="panelOpen" />
      <LazySelectionCard
        v-if="narrow"
        class="on-stage"
      />
      <ResourceLanes />
      <BoardSockets />
      <FoldPanel
        class="as-table"
        title="The header as a table"
      >
        <HeaderTable />
      </FoldPanel>
    </template>
  </div>
</template>

<style scoped>
.stage-head { align-items: center; gap: 8px; }
.empty { padding: 20px 0; display: grid; gap: 8px; justify-items: start; }
.move-bar {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
  background: var(--moss-wash);
  border: 1px solid var(--moss);
  border-radius: 4px;
  padding: 6px 10px;
  margin-top: 8px;
}
.move-bar span { flex: 1; }
.elsewhere { max-width: 240px; }
.chips { display: flex; flex-wrap: wrap; gap: 4px 5px; margin: 8px 0 6px; }
.chip.chip {
  background: var(--sheet);
  border: 1px solid var(--rule);
  color: var(--ink);
  max-width: 230px;
  height: 26px;
  padding: 0 7px 0 3px;
  opacity: 1;
}
.chip :deep(.v-chip__content) { gap: 5px; min-width: 0; }
.chip :deep(.v-chip__underlay) { display: none; }
.chip-tag {
  background: var(--owner);
  color: var(--sheet);
  font-weight: 700;
  font-size: 11px;
  min-width: 17px;
  text-align: center;
  border-radius: 2px;
  padding: 0 3px;
  line-height: 18px;
}
.chip-name { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.chip.chosen { border-color: var(--owner); box-shadow: inset 0 -3px var(--owner); font-weight: 650; }
.chip.marked { outline: 2px solid var(--copper); }
.stop-tag { background: var(--carmine); color: var(--sheet); font-weight: 700; font-size: 11px; border-radius: 2px; padding: 0 5px; }
.on-stage { max-width: 560px; margin-bottom: 10px; }
.as-table { margin-top: 14px; font-size: 13.5px; }
</style>
