<script setup lang="ts">
/**
 * The findings of the stage in view, grouped by what causes them or by what they are about; everything else
 * one switch away.
 */
import { useMediaQuery } from '@vueuse/core'
import { byCause, bySubject, type FindingGroup } from '~~/core/findings/groups'
import { isOpen } from '~~/core/findings/set-aside'
import type { Finding, Fix } from '~~/core/findings/types'

const project = useProjectStore()
const view = useViewStore()
const { current } = useStages()
const { nameOf } = useOwners()
/** Narrow screens have the selection on the stage itself. */
const wide = useMediaQuery('(min-width: 1101px)')
const panel = useTemplateRef<HTMLElement>('panel')

const judged = computed(() => !!project.facts?.board && project.plan!.parts.length > 0)
const findings = computed(() => project.report?.findings ?? [])
const counted = computed(() => findings.value.filter(isOpen))
const atStage = (list: readonly Finding[]) =>
  view.allStages ? [...list] : list.filter(finding => finding.stages.includes(current.value.id))
const shown = computed(() => {
  const list = atStage(counted.value)
  const part = view.partId
  if (!part || view.findingId) return list
  // What concerns the chosen part comes first.
  const mine = list.filter(finding => finding.subjects.some(subject => subject.partId === part))
  return [...mine, ...list.filter(finding => !mine.includes(finding))]
})
const aside = computed(() => atStage(findings.value.filter(finding => !isOpen(finding))))
const names = {
  part: nameOf,
  node: (id: string) => project.report!.power.nodes.find(node => node.id === id)?.name,
  bus: (id: string) => project.report!.buses.find(bus => bus.id === id)?.label,
}
const groups = computed(() => view.groupBy === 'cause' ? byCause(shown.value) : bySubject(shown.value, names))
/** How many findings of an opened group are shown; of the others the gravest is. */
const opened = ref(new Map<string, number>())
/** Groups up to this size are shown whole. */
const SMALL = 3
/** So many cards more with each press: a broken file can have hundreds. */
const STEP = 40
function inGroup({ key, findings: list }: FindingGroup) {
  const shownHere = list.slice(0, Math.max(opened.value.get(key) ?? (list.length <= SMALL ? SMALL : 1), 1))
  const chosen = list.find(finding => finding.id === view.findingId)
  return chosen && !shownHere.includes(chosen) ? [...shownHere, chosen] : shownHere
}
const leftIn = (group: FindingGroup) => group.findings.length - inGroup(group).length
const show = (key: string, count: number) => opened.value = new Map([...opened.value, [key, count]])
const moreWords = (group: FindingGroup) => opened.value.has(group.key)
  ? `Show ${Math.min(STEP, leftIn(group))} more of ${leftIn(group)}`
  : `${leftIn(group)} more of this kind`
/**
 * So many groups are drawn at first, and with each press of the button: a broken file can have hundreds of findings.
 */
const GROUPS = 30
const max = ref(GROUPS)
watch(() => [current.value.id, view.allStages, view.partId], () => max.value = GROUPS)

/** After a fix the finding is gone: the focus goes to the one that takes its place. */
async function applyFix(finding: Finding, fix: Fix) {
  const titles = () => [...panel.value?.querySelectorAll<HTMLElement>('.finding-title') ?? []]
  const at = titles().findIndex(title => title.dataset.finding === finding.id)
  project.applyFix(fix)
  await nextTick()
  await nextTick()
  if (document.activeElement && document.activeElement !== document.body) return
  const left = titles()
  ;(left[Math.min(at, left.length - 1)] ?? panel.value)?.focus()
}
</script>

<template>
  <div
    ref="panel"
    class="panel"
    tabindex="-1"
    data-test="findings"
  >
    <div class="ways">
      <v-btn-toggle
        v-model="view.groupBy"
        aria-label="Group by"
      >
        <v-btn
          value="cause"
          data-test="by-cause"
        >
          By cause
        </v-btn>
        <v-btn
          value="subject"
          data-test="by-subject"
        >
          By part
        </v-btn>
      </v-btn-toggle>
      <v-checkbox-btn
        v-model="view.allStages"
        :label="`all stages (${counted.length})`"
        data-test="all-stages"
      />
    </div>
    <LazySelectionCard v-if="wide && current.id === 'wiring' && !view.findingId" />
    <LazyPowerNodeCard v-if="wide && current.id === 'power' && view.node" />
    <section
      v-for="group in groups.slice(0, max)"
      :key="group.key"
      class="group"
    >
      <h2 v-if="group.findings.length > 1 || view.groupBy === 'subject'">
        <span
          v-if="group.findings.length > 1"
          class="figures"
        >{{ group.findings.length }} ×</span> {{ group.title }}
      </h2>
      <FindingCard
        v-for="finding in inGroup(group)"
        :key="finding.id"
        :finding="finding"
        @fix="fix => applyFix(finding, fix)"
      />
      <div
        v-if="group.findings.length > SMALL"
        class="more"
      >
        <v-btn
          v-if="leftIn(group)"
          variant="text"
          size="small"
          data-test="more-of-group"
          @click="show(group.key, inGroup(group).length + STEP)"
        >
          {{ moreWords(group) }}
        </v-btn>
        <v-btn
          v-if="opened.has(group.key)"
          variant="text"
          size="small"
          @click="opened.delete(group.key)"
        >
          Show one only
        </v-btn>
      </div>
    </section>
    <v-btn
      v-if="max < groups.length"
      variant="outlined"
      data-test="more-findings"
      @click="max += GROUPS"
    >
      Show {{ Math.min(GROUPS, groups.length - max) }} more groups of {{ groups.length - max }}
    </v-btn>
    <p
      v-if="!shown.length"
      class="quiet none"
    >
      {{ counted.length ? `Nothing on this stage. ${counted.length} elsewhere.` : judged
        ? 'Nothing to stop you, and nothing to be careful about.' : 'Nothing to judge yet: it takes a board and a part.' }}
    </p>
    <v-expansion-panels
      v-if="aside.length"
      class="plain"
    >
      <v-expansion-panel data-test="set-aside">
        <v-expansion-panel-title>{{ aside.length }} set aside</v-expansion-panel-title>
        <v-expansion-panel-text>
          <div class="group">
            <FindingCard
              v-for="finding in aside"
              :key="finding.id"
              :finding="finding"
              @fix="fix => applyFix(finding, fix)"
            />
          </div>
        </v-expansion-panel-text>
      </v-expansion-panel>
    </v-expansion-panels>
  </div>
</template>

<style scoped>
.panel { padding: 8px 12px 20px; display: flex; flex-direction: column; gap: 10px; outline: none; }
.ways { display: flex; align-items: center; gap: 10px; flex-wrap: wrap; }
.ways :deep(.v-label) { font-size: 12.5px; }
.group { display: grid; gap: 8px; }
.group h2 { font-size: 13px; color: var(--ink-2); overflow-wrap: anywhere; }
.more { display: flex; flex-wrap: wrap; }
.none { padding: 6px 2px; }
</style>
