<script setup lang="ts">
/** Choose the parts: on one side what the catalogue offers, on the other what the plan holds. */
import { useMediaQuery } from '@vueuse/core'
import type { Part } from '~~/core/catalogue/types'

const project = useProjectStore()
const {
  text, group, link, rail, max, onlyFitting, onlyInDrawer, free, hasStock, groups, links, rails, freeLines, all,
  offered, byGroup,
  isSifted, clear, add, ghost,
} = useParts()
const narrow = useMediaQuery('(max-width: 860px)')
/** Narrow screens have one side at a time. */
const side = ref<'choose' | 'held'>(project.plan!.parts.length ? 'held' : 'choose')
const SIDES = computed(() =>
  [{ id: 'choose', name: 'Choose' }, { id: 'held', name: `In the plan (${project.plan!.parts.length})` }])

/** Groups that are open; while something is sought all of them are shown, without folds. */
const open = ref<string[]>([])
const titleOf = (name: string) => name.charAt(0).toUpperCase() + name.slice(1)

/** Parts that will be laid side by side: two or three of one kind. */
/** So many stand beside each other. */
const MAX_COMPARED = 5
const compared = ref<Part[]>([])
const comparing = ref<'some' | 'displays' | null>(null)
const canCompare = (part: Part) => compared.value.includes(part)
  || (compared.value.length < MAX_COMPARED && (!compared.value.length || compared.value[0]!.group === part.group))
function toggle(part: Part) {
  compared.value = compared.value.includes(part)
    ? compared.value.filter(other => other !== part)
    : [...compared.value, part]
}
</script>

<template>
  <div class="parts">
    <div class="stage-head">
      <h1>Parts</h1>
      <span class="quiet">{{ project.plan!.parts.length }} in the plan</span>
      <span class="spacer" />
      <v-btn
        v-if="compared.length"
        size="small"
        color="primary"
        data-test="compare-parts"
        :disabled="compared.length < 2"
        @click="comparing = 'some'"
      >
        {{ compared.length < 2 ? 'One more to compare' : `Compare ${compared.length}` }}
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        data-test="compare-displays"
        @click="comparing = 'displays'"
      >
        Compare displays
      </v-btn>
    </div>
    <ViewTabs
      v-if="narrow"
      v-model="side"
      :views="SIDES"
      test="parts"
      label="Side"
    />
    <div class="panes">
      <section
        v-if="!narrow || side === 'choose'"
        class="choose"
        aria-labelledby="drawer-of-parts"
      >
        <h2
          id="drawer-of-parts"
          class="only-reader"
        >
          Drawer of parts
        </h2>
        <div class="sieve">
          <v-text-field
            v-model="text"
            class="wide"
            type="search"
            label="What it does, how it connects, or its chip"
            clearable
            data-test="part-search"
          />
          <v-select
            v-model="group"
            :items="groups"
            label="Kind"
            clearable
            data-test="part-kind"
          />
          <v-select
            v-model="link"
            :items="links"
            label="By"
            clearable
            data-test="part-link"
          />
          <v-select
            v-model="rail"
            :items="rails"
            label="Rail"
            clearable
          />
          <NumberField
            :value="max"
            label="Price ≤"
            :min="0"
            may-be-empty
            @set="value => max = value"
          />
          <v-checkbox
            v-model="onlyFitting"
            class="wide"
            :label="`only what ${freeLines} free ${freeLines === 1 ? 'line' : 'lines'} can serve`"
          />
          <v-checkbox
            v-if="hasStock"
            v-model="onlyInDrawer"
            class="wide"
            label="only what lies in the drawer"
            data-test="only-drawer"
          />
        </div>
        <p
          class="quiet small count"
          role="status"
        >
          {{ offered.length }} of {{ all.length }}
          <v-btn
            v-if="isSifted"
            class="act"
            variant="text"
            size="x-small"
            @click="clear"
          >
            show all
          </v-btn>
        </p>
        <template v-if="isSifted">
          <section
            v-for="{ name, list } in byGroup"
            :key="name"
          >
            <h3 class="quiet">
              {{ titleOf(name) }} <span class="figures number">{{ list.length }}</span>
            </h3>
            <OfferList
              :list="list"
              :compared="compared"
              :can-compare="canCompare"
              :free="free"
              @add="add"
              @look="ghost"
              @compare="toggle"
            />
          </section>
        </template>
        <v-expansion-panels
          v-else
          v-model="open"
          multiple
          class="plain"
        >
          <v-expansion-panel
            v-for="{ name, list } in byGroup"
            :key="name"
            :value="name"
          >
            <v-expansion-panel-title :data-test="`group-${name}`">
              {{ titleOf(name) }} <span class="quiet figures number">{{ list.length }}</span>
            </v-expansion-panel-title>
            <v-expansion-panel-text>
              <OfferList
                :list="list"
                :compared="compared"
                :can-compare="canCompare"
                :free="free"
                @add="add"
                @look="ghost"
                @compare="toggle"
              />
            </v-expansion-panel-text>
          </v-expansion-panel>
        </v-expansion-panels>
        <p
          v-if="!offered.length"
          class="quiet none"
        >
          No part matches all of that. Take a condition away, search for what it does ("screen", "I²C"), or make one of your own below.
        </p>
        <OwnEntries kind="part" />
      </section>
      <section
        v-if="!narrow || side === 'held'"
        class="held"
        aria-label="Parts of the plan"
        tabindex="-1"
      >
        <StackOrder />
        <p
          v-if="!project.plan!.parts.length"
          class="quiet empty"
        >
          No part yet. Open a group, or search; pointing at a part shows on the strip below what it would take, and + takes it in.
        </p>
        <PartCard
          v-for="part in project.plan!.parts"
          :key="part.id"
          :in-plan="part"
        />
      </section>
    </div>
    <LazyDisplayTable
      v-if="comparing === 'displays'"
      @close="comparing = null"
      @add="add"
    />
    <LazyPartComparison
      v-if="comparing === 'some'"
      :parts="compared"
      @close="comparing = null"
      @add="add"
    />
  </div>
</template>

<style scoped>
.parts { display: flex; flex-direction: column; height: 100%; }
.panes { display: grid; grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr); gap: 16px; min-height: 0; flex: 1; }
.choose, .held { overflow-y: auto; padding: 2px 6px 12px 2px; min-height: 0; }
.held { display: grid; gap: 8px; align-content: start; }
.sieve { display: grid; grid-template-columns: repeat(4, minmax(0, 1fr)); gap: 8px; padding-top: 6px; }
.wide { grid-column: 1 / -1; }
.count { min-height: 26px; display: flex; align-items: center; gap: 8px; }
h3 { font-size: 13px; padding: 6px 2px 2px; }
.number { margin-left: 8px; font-weight: 400; }
.none, .empty { padding: 10px 2px; }
@media (max-width: 860px) {
  .parts { height: auto; }
  .panes { grid-template-columns: minmax(0, 1fr); }
  .choose, .held { overflow: visible; }
  .sieve { grid-template-columns: repeat(2, minmax(0, 1fr)); }
}
</style>
