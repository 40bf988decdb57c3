<script setup lang="ts">
/** The rehearsal of a start, told in order; and what comes alive, with the missing line where something does not. */
import type { Rehearsal } from '~~/core/boot/rehearse/types'
import type { Fix } from '~~/core/findings/types'

type Story = Omit<Rehearsal, 'tree'> & { source: string }
const project = useProjectStore()
const view = useViewStore()
const { ask, stop } = useBootWorker()
const { colourOf } = useOwners()
const story = shallowRef<Story | null>(null)
const rehearsed = shallowRef<unknown>(null)
const running = ref<{ done: number, of: number } | null>(null)
const failed = ref<string | null>(null)
const stale = computed(() => story.value !== null && rehearsed.value !== project.plan)
const dark = computed(() => story.value?.parts.filter(part => part.state === 'dark') ?? [])
const alive = computed(() => story.value?.parts.filter(part => part.state === 'alive') ?? [])
const plain = computed(() => story.value?.parts.filter(part => part.state === 'no-driver') ?? [])
const lines = computed(() => {
  const byLine = new Map<string, Story['claims']>()
  for (const claim of story.value?.claims ?? []) byLine.set(claim.where, [...byLine.get(claim.where) ?? [], claim])
  // The header's lines by number, then those of other chips.
  return [...byLine].sort(([a, [one]],
    [b, [two]]) => (one!.line ?? Infinity) - (two!.line ?? Infinity) || a.localeCompare(b))
})
const MARKS = { done: '✓', failed: '✕', skipped: '–', note: 'i' } as const
const OUTCOMES = { done: 'done', failed: 'failed', skipped: 'left out', note: 'note' } as const

async function run() {
  const { plan } = project
  if (!plan) return
  running.value = { done: 0, of: 4 }
  failed.value = null
  try {
    const copy = JSON.parse(JSON.stringify(plan))
    // Asked at once, so that a stop pressed in the next instant finds something to stop.
    const answer = await ask(async (service) => {
      const { proxy } = await import('comlink')
      return service.rehearse(copy, proxy((done: number, of: number) => {
        // Progress comes by a way of its own, and may arrive after the answer.
        if (running.value) running.value = { done, of }
      }))
    })
    if (!answer) return view.say('Stopped. Nothing was changed.')
    story.value = answer
    rehearsed.value = plan
  }
  catch (error) {
    failed.value = (error as Error).message
  }
  finally {
    running.value = null
  }
}

onMounted(run)
onBeforeUnmount(stop)

async function apply(fix: NonNullable<Story['parts'][number]['fix']>) {
  project.applyFix({ label: fix.label, edits: fix.edits } satisfies Fix)
  await run()
}

function takeTree() {
  download('rehearsed.dts', story.value!.source, 'text/plain')
}
</script>

<template>
  <div>
    <div class="head">
      <v-btn
        size="small"
        color="primary"
        :disabled="!!running"
        data-test="rehearse"
        @click="run"
      >
        {{ story ? 'Rehearse again' : 'Rehearse' }}
      </v-btn>
      <v-btn
        v-if="running"
        size="small"
        variant="outlined"
        data-test="stop-rehearsal"
        @click="stop"
      >
        Stop
      </v-btn>
      <span
        class="small"
        role="status"
        data-test="rehearsal-verdict"
      >
        <template v-if="running">Step {{ running.done }} of {{ running.of }} …</template>
        <template v-else-if="story"><b>{{ alive.length }}</b> of {{ alive.length + dark.length }} come alive<template v-if="dark.length">,
          <b class="off">{{ dark.length }} {{ dark.length === 1 ? 'stays' : 'stay' }} dark</b></template><template v-if="stale">. The plan
          has
          changed since</template>.</template>
      </span>
      <span class="spacer" />
      <v-btn
        v-if="story"
        size="small"
        variant="outlined"
        @click="takeTree"
      >
        Tree as source
        <HoverHint text="The device tree as the kernel gets it" />
      </v-btn>
    </div>
    <p
      v-if="failed"
      class="failed"
      role="alert"
    >
      The rehearsal could not be made: {{ failed }}. Take the base tree out under "Board tree", or give another one.
    </p>
    <div
      v-if="story"
      class="columns"
      :class="{ stale }"
    >
      <section>
        <h2>In order</h2>
        <ol
          class="steps sheet"
          data-test="rehearsal-steps"
          tabindex="0"
          aria-label="Steps of the start"
        >
          <li
            v-for="(step, i) in story.steps"
            :key="i"
            :class="step.outcome"
          >
            <span
              class="mark"
              aria-hidden="true"
            >{{ MARKS[step.outcome] }}</span>
            <div>
              <span class="only-reader">{{ OUTCOMES[step.outcome] }}: </span><b>{{ step.title }}</b>
              <span
                v-if="step.line !== undefined"
                class="quiet small figures at"
              >{{ step.file ? `${step.file}:` : 'line ' }}{{ step.line }}</span>
              <p>{{ step.detail }}</p>
            </div>
          </li>
        </ol>
      </section>
      <section>
        <h2>Parts</h2>
        <ul
          class="parts sheet"
          data-test="rehearsal-parts"
        >
          <li
            v-for="part in [...dark, ...alive, ...plain]"
            :key="part.partId"
            :class="part.state"
            :style="{ '--owner': colourOf(part.partId) }"
          >
            <div class="row">
              <span class="owner-swatch" /><b>{{ part.name }}</b>
              <span class="verdict small">{{ part.state === 'alive' ? 'comes alive' : part.state === 'dark' ? 'stays dark'
                : 'no driver wanted' }}</span>
            </div>
            <p class="small">
              {{ part.why }}
            </p>
            <v-btn
              v-if="part.fix"
              size="x-small"
              color="primary"
              data-test="rehearsal-fix"
              @click="apply(part.fix)"
            >
              {{ part.fix.label }}
            </v-btn>
          </li>
          <li
            v-if="!story.parts.length"
            class="quiet"
          >
            The plan has no part yet: only the files are rehearsed.
          </li>
        </ul>
        <h2>What appears</h2>
        <v-table class="sheet pad">
          <thead>
            <tr>
              <th scope="col">
                Node
              </th><th scope="col">
                What
              </th>
            </tr>
          </thead>
          <tbody data-test="rehearsal-devices">
            <tr
              v-for="device in story.devices"
              :key="device.path + device.node"
            >
              <td class="figures">
                <HintText :hint="device.node">
                  {{ device.path }}
                </HintText>
              </td><td>{{ device.what }}</td>
            </tr>
          </tbody>
        </v-table>
        <h2>Lines</h2>
        <v-table class="sheet pad">
          <thead>
            <tr>
              <th
                scope="col"
                class="num"
              >
                Line
              </th><th scope="col">
                Claimed by
              </th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="[line, claims] in lines"
              :key="line"
              :class="{ clash: claims.some(claim => claim.clash) }"
            >
              <td class="num">
                {{ line }}
              </td><td>
                <div
                  v-for="claim in claims"
                  :key="claim.node + claim.as"
                  class="figures small"
                >
                  {{ claim.node }} <span class="quiet">({{ claim.as === 'pins' ? 'pin setting' : claim.as }}{{ claim.clash
                    ? `; refused, ${claim.clash} has it` : '' }})</span>
                </div>
              </td>
            </tr>
          </tbody>
        </v-table>
      </section>
    </div>
    <p class="quiet small basis">
      Worked out from a base tree {{ project.plan!.boot?.base ? `of yours (${project.plan!.boot.base.name})`
        : 'of the board\'s class that ships with Voltaris' }}; nothing is run. Drop the .dtb of your image to rehearse on that.
    </p>
  </div>
</template>

<style scoped>
.head { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin-bottom: 10px; }
.spacer { flex: 1; }
.off { color: var(--carmine); }
.failed {
  background: var(--carmine-wash);
  border-left: 6px solid var(--carmine);
  padding: 8px 12px;
  border-radius: 4px;
  margin-bottom: 10px;
  overflow-wrap: anywhere;
}
.columns { display: grid; gap: 14px; grid-template-columns: repeat(auto-fit, minmax(min(100%, 340px), 1fr)); }
.stale { opacity: .6; }
h2 { margin: 0 0 5px; }
section h2:not(:first-child) { margin-top: 12px; }
.steps, .parts { list-style: none; margin: 0; padding: 0; }
.steps { max-height: 66vh; overflow: auto; }
.steps li {
  display: grid;
  grid-template-columns: 26px 1fr;
  gap: 6px;
  padding: 6px 10px 7px;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent);
  font-size: 13px;
  overflow-wrap: anywhere;
}
.at { margin-left: 8px; }
.mark {
  width: 20px;
  height: 20px;
  border-radius: 50%;
  display: grid;
  place-items: center;
  font-size: 12px;
  font-weight: 700;
  background: var(--paper-3);
  color: var(--ink);
}
.done .mark { background: var(--moss-wash); color: var(--moss); }
.failed .mark { background: var(--carmine); color: var(--sheet); }
.steps .failed { background: var(--carmine-wash); border-left: 0; border-radius: 0; margin: 0; }
.skipped { color: var(--ink-2); }
.parts li { padding: 7px 10px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.row { display: flex; gap: 7px; align-items: center; flex-wrap: wrap; }
.verdict { margin-left: auto; font-weight: 650; }
.alive .verdict { color: var(--moss); }
.dark .verdict { color: var(--carmine); }
.dark { background: color-mix(in srgb, var(--carmine-wash) 55%, transparent); }
.pad td:first-child, .pad th:first-child { padding-left: 10px; }
.pad td { overflow-wrap: anywhere; }
.clash td { background: var(--carmine-wash); }
.basis { margin-top: 10px; }
</style>
