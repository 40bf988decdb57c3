<script setup lang="ts">
/**
 * The board on spacers on a plate, and boards that are pushed on it: which spacers, which screws, and why
 * not the others.
 */
import { fastenersInWords as inWords, levelItems, mountItems, stackOnSpacers } from '~~/core/mechanics/stack'
import { BOARD_MM, HOLES, screwVerdicts, SERIES, type Mount } from '~~/core/mechanics/fasteners'
import { fixingsOf, groundsOf, mountOf } from '~~/core/mechanics/panel'

const project = useProjectStore()
const mount = computed(() => project.plan!.build.mount ?? null)
const mounted = computed(() => project.facts ? mountOf(project.facts) : null)
const answer = computed(() => mounted.value?.answer ?? null)
const ground = computed(() => mounted.value?.ground ?? null)
/** What it can stand on. */
const grounds = computed(() => [
  { value: '', title: 'a plate' }, ...(project.facts ? groundsOf(project.facts) : []).map(({ owner }) =>
    ({ value: owner.id, title: owner.name })),
])
const fixings = computed(() => (project.facts ? fixingsOf(project.facts) : []).map(fixing => ({
  ...fixing, verdicts: fixing.clampedMm === null ? [] : screwVerdicts({ ...fixing, clampedMm: fixing.clampedMm }),
})))
const screwTo = (id: string, clampedMm: number | null) => {
  const place = { on: 'table' as const, ...project.plan!.build.places[id], clampedMm: clampedMm ?? undefined }
  project.edit({ edit: 'place-body', id, place }, 'What is screwed to it')
}
const stack = computed(() => project.facts && stackOnSpacers(project.facts))
const levels = computed(() => stack.value?.levels ?? [])
const spacers = computed(() => project.plan!.build.spacers === true)
const items = computed(() => project.facts ? mountItems(project.facts) : [])
const onSpacers = (on: boolean) => project.edit({ edit: 'set-spacers', on }, on
  ? 'Put what is pushed on onto spacers'
  : 'Leave what is pushed on to the header')
const THREADS = (['M2.5', 'M3'] as const).map(value => ({ value, title: value }))
const USUAL: Mount = { thread: 'M2.5', plateMm: 3, underMm: 3, washers: false }

const set = (fields: Partial<Mount> & { onto?: string }) =>
  project.edit({ edit: 'set-mount', mount: { ...USUAL, ...mount.value, ...fields } }, 'The board on its spacers')
const turn = (to: boolean) => project.edit({ edit: 'set-mount', mount: to ? USUAL : null }, to
  ? 'Put the board on a plate'
  : 'Take the plate away')

/** Both screws, each length with its verdict. */
const screws = computed(() => {
  const task = mount.value
  const found = answer.value
  if (!task || !found?.spacerMm) return []
  const washer = task.washers ? SERIES[task.thread].washerMm : 0
  const reach = (length: number | null, thick: number) => length === null ? 0 : length - thick - washer
  // Where studs hold the board in every hole no screw goes through it.
  const isStudded = spacers.value && (stack.value?.insteadOfMount ?? 0) >= HOLES
  return [
    ...isStudded
      ? []
      : [{ name: 'Through the board, from above', length: found.topMm,
          task: { thread: task.thread, clampedMm: BOARD_MM + washer,
            depthMm: found.spacerMm - reach(found.bottomMm, task.plateMm) } }],
    ...ground.value
      ? []
      : [{ name: 'Through the plate, from below', length: found.bottomMm,
          task: { thread: task.thread, clampedMm: task.plateMm + washer,
            depthMm: found.spacerMm - reach(found.topMm, BOARD_MM) } }],
  ].map(entry => ({ ...entry,
    verdicts: screwVerdicts({ ...entry.task, ...!ground.value && { endsAt: 'the other screw' as const } }) }))
})
</script>

<template>
  <FoldPanel
    title="Spacers and screws"
    data-test="mount"
    :open="mount !== null || spacers || fixings.some(({ clampedMm }) => clampedMm !== null)"
  >
    <v-checkbox
      :model-value="mount !== null"
      label="The board stands on spacers"
      hide-details
      data-test="mount-on"
      @update:model-value="turn(!!$event)"
    />
    <v-checkbox
      :model-value="spacers"
      :disabled="!levels.length && !spacers"
      label="Boards that are pushed on stand on spacers"
      hide-details
      data-test="spacers-on"
      @update:model-value="onSpacers(!!$event)"
    />
    <p
      v-if="!levels.length"
      class="small quiet"
    >
      No board of the plan is pushed on that has holes over those below it.
    </p>
    <ul
      v-if="spacers && levels.length"
      class="levels"
      data-test="levels"
    >
      <li
        v-for="level in levels"
        :key="level.partId"
      >
        <b>{{ level.name }}</b>, {{ level.gapMm }} mm over what is below:
        <span
          v-if="level.problem"
          class="bad"
        >{{ level.problem }}</span>
        <template v-else>
          {{ inWords(levelItems(level, stack!.thread)) }}<template v-if="level.studMm">
            (the studs go through the board below, in place of its screws)
          </template>
        </template>
      </li>
    </ul>
    <template v-if="mount">
      <div class="fields">
        <v-select
          label="Thread"
          :items="THREADS"
          :model-value="mount.thread"
          hide-details
          data-test="mount-thread"
          @update:model-value="thread => set({ thread })"
        />
        <v-select
          v-if="grounds.length > 1"
          label="On"
          :items="grounds"
          :model-value="ground?.owner.id ?? ''"
          hide-details
          data-test="mount-onto"
          @update:model-value="onto => set({ onto: onto || undefined })"
        />
        <NumberField
          v-if="!ground"
          label="Plate"
          unit="mm"
          :value="mount.plateMm"
          :min="0.3"
          :max="20"
          data-test="mount-plate"
          @set="plateMm => set({ plateMm: plateMm! })"
        />
        <NumberField
          label="Tallest under it"
          unit="mm"
          :value="mount.underMm"
          :min="0"
          :max="60"
          data-test="mount-under"
          @set="underMm => set({ underMm: underMm! })"
        />
        <v-checkbox
          :model-value="mount.washers"
          label="with washers"
          hide-details
          @update:model-value="washers => set({ washers: !!washers })"
        />
      </div>
      <p
        v-for="problem in answer!.problems"
        :key="problem"
        class="bad"
        role="alert"
      >
        {{ problem }}
      </p>
      <p
        v-if="answer!.items.length"
        data-test="mount-answer"
      >
        <b>{{ inWords(items) }}.</b> They stand in the parts list.
      </p>
      <div class="both">
        <v-table
          v-for="screw in screws"
          :key="screw.name"
          class="small"
          density="compact"
        >
          <caption>{{ screw.name }}: {{ screw.length === null ? 'none' : `${screw.length} mm` }}</caption>
          <tbody>
            <tr
              v-for="verdict in screw.verdicts"
              :key="verdict.lengthMm"
              :class="{ taken: verdict.lengthMm === screw.length }"
            >
              <th scope="row">
                {{ verdict.lengthMm }}
              </th>
              <td>{{ verdict.why }}</td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <p class="small quiet">
        Lengths after ISO 7045 and ISO 888; one to one and a half diameters of thread have to hold, common practice. A board is taken as
        1.6 mm, with four holes: measure yours.
      </p>
    </template>
    <section
      v-for="fixing in fixings"
      :key="`${fixing.owner.id} ${fixing.thread} ${fixing.depthMm}`"
      data-test="fixing"
    >
      <h3>{{ fixing.owner.name }}: {{ fixing.count }} threads {{ fixing.thread }}, {{ fixing.depthMm }} mm deep. What is screwed to it:</h3>
      <div class="fields">
        <NumberField
          label="Thickness"
          unit="mm"
          :value="fixing.clampedMm"
          may-be-empty
          placeholder="nothing"
          :min="0.3"
          :max="30"
          data-test="fixing-clamped"
          @set="value => screwTo(fixing.owner.id, value)"
        />
      </div>
      <div
        v-if="fixing.verdicts.length"
        class="both"
      >
        <v-table
          class="small"
          density="compact"
        >
          <caption>
            Into its threads: {{ fixing.screwMm === null ? 'none' : `${fixing.count} × ${fixing.thread} × ${fixing.screwMm}` }}
          </caption>
          <tbody>
            <tr
              v-for="verdict in fixing.verdicts"
              :key="verdict.lengthMm"
              :class="{ taken: verdict.lengthMm === fixing.screwMm }"
            >
              <th scope="row">
                {{ verdict.lengthMm }}
              </th>
              <td>{{ verdict.why }}</td>
            </tr>
          </tbody>
        </v-table>
      </div>
    </section>
  </FoldPanel>
</template>

<style scoped>
.fields { display: grid; gap: 10px; grid-template-columns: repeat(auto-fill, minmax(170px, 1fr)); align-items: center; padding: 6px 0; }
.levels { margin: 0; padding: 0 0 6px 20px; }
.bad { color: var(--carmine); font-weight: 650; }
.both { display: grid; gap: 6px 24px; grid-template-columns: repeat(auto-fit, minmax(300px, 1fr)); }
caption { text-align: start; font-weight: 650; padding: 6px 0 2px; }
.both :deep(td), .both :deep(th) { height: 26px; }
th { text-align: end; font-weight: 400; }
.taken { font-weight: 700; background: var(--moss-wash); }
</style>
