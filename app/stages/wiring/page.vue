<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { isOpenStop } from '~~/core/findings/set-aside'
import { USUAL_WORKSHEETS } from '~~/core/worksheets'

/** Who sits where: the header, the parts, and every scarce thing as a lane. */
const project = useProjectStore()
const view = useViewStore()
const { colourOf } = useOwners()
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
  project.report!.findings.some(finding => isOpenStop(finding) && finding.subjects.some(subject => subject.partId === partId))
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
        title="Turn the header over (o)"
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
          title="Only what you fixed stays where it is"
          @click="place('all')"
        >
          Place anew
        </v-btn>
        <v-btn
          size="small"
          color="primary"
          data-test="place-rest"
          title="What is placed stays unless it must move (p)"
          @click="place('rest')"
        >
          Place the rest
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
        <select
          v-if="elsewhere.length"
          aria-label="Or a terminal of another part"
          @change="moveTo(moving!, elsewhere[Number(($event.target as HTMLSelectElement).value)]!)"
        >
          <option value="">
            or another part …
          </option>
          <option
            v-for="(option, i) in elsewhere"
            :key="option.label"
            :value="i"
          >
            {{ option.label }}{{ option.takenBy.length ? ' (taken)' : '' }}
          </option>
        </select>
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
        aria-label="Parts"
      >
        <button
          v-for="part in project.plan!.parts"
          :key="part.id"
          class="chip"
          :class="{ chosen: view.partId === part.id, marked: view.markedParts.has(part.id) }"
          :style="{ '--owner': colourOf(part.id) }"
          :aria-pressed="view.partId === part.id"
          :data-test="`chip-${part.id}`"
          @click="view.choosePart(view.partId === part.id ? null : part.id)"
        >
          <span class="owner-swatch" /><span class="chip-name">{{ part.name }}</span>
          <span class="figures quiet">{{ placedCount(part.id) }}</span>
          <span
            v-if="stopsOf(part.id)"
            class="stop-tag"
          >stop</span>
        </button>
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
      <details class="as-table">
        <summary>The header as a table</summary>
        <HeaderTable />
      </details>
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
.move-bar select {
  border: 1px solid var(--rule);
  background: var(--sheet);
  color: inherit;
  border-radius: 3px;
  padding: 3px 6px;
  max-width: 220px;
}
.chips { display: flex; flex-wrap: wrap; gap: 6px; margin: 10px 0 8px; }
.chip {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 2px 8px;
  font: inherit;
  font-size: 13px;
  color: inherit;
  cursor: pointer;
  max-width: 260px;
}
.chip-name { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.chip.chosen { border-color: var(--owner); box-shadow: inset 0 -3px var(--owner); font-weight: 650; }
.chip.marked { outline: 2px solid var(--copper); }
.stop-tag { background: var(--carmine); color: var(--sheet); font-weight: 700; font-size: 11px; border-radius: 2px; padding: 0 5px; }
.on-stage { max-width: 560px; margin-bottom: 10px; }
.as-table { margin-top: 14px; font-size: 13.5px; }
</style>
