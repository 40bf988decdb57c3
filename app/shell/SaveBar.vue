<script setup lang="ts">
/** What stands between this tab and a saved plan: a failed save, or what another tab changed at the same time. */
import type { MergeConflict } from '~~/core/plan/merge'

const project = useProjectStore()
const { exportPlan } = useTransfer()

const failed = computed(() => project.saveState.state === 'failed' ? project.saveState : null)

const nameOf = ({ path }: MergeConflict) => titled(path.map((name, i) => {
  const part = path[0] === 'parts' && i === 1 ? project.plan?.parts.find(entry => entry.id === name) : undefined
  return part?.name ?? name
}).join(' › '))
const titled = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

function inWords(value: unknown): string {
  if (value === undefined || value === null || value === '') return 'nothing'
  const text = typeof value === 'string' ? value : JSON.stringify(value)
  return text.length > 120 ? `${text.slice(0, 118)} …` : text
}
</script>

<template>
  <div class="bars">
    <div
      v-if="failed"
      class="save-bar"
      role="alert"
      data-test="not-saved"
    >
      <p>
        <b>What you see is not saved.</b> {{ failed.message }}
        <template v-if="failed.trouble !== 'gone'">
          It is tried again every few seconds.
        </template>
      </p>
      <v-btn
        v-if="failed.trouble === 'gone'"
        color="primary"
        size="small"
        @click="project.putBack"
      >
        Keep it anew in this browser
      </v-btn>
      <v-btn
        v-else
        color="primary"
        size="small"
        @click="project.retrySave"
      >
        Save again
      </v-btn>
      <v-btn
        variant="outlined"
        size="small"
        @click="project.plan && exportPlan(project.plan)"
      >
        Export what is here
      </v-btn>
    </div>
    <div
      v-if="project.collisions.length"
      class="save-bar"
      role="alert"
      data-test="collisions"
    >
      <p>
        <b>Another tab changed the same at the same time.</b> Its version stands; yours is here, and lies whole among the earlier states.
      </p>
      <ul>
        <li
          v-for="collision in project.collisions"
          :key="collision.path.join('/')"
        >
          <span>{{ nameOf(collision) }}: <b>{{ inWords(collision.theirs) }}</b> stands, yours was
            <b>{{ inWords(collision.mine) }}</b></span>
          <v-btn
            size="x-small"
            variant="outlined"
            @click="project.takeMine(collision)"
          >
            Take mine
          </v-btn>
        </li>
      </ul>
      <v-btn
        variant="text"
        size="small"
        @click="project.dropCollisions"
      >
        Leave it so
      </v-btn>
    </div>
  </div>
</template>

<style scoped>
/* Seen wherever the stage is scrolled to. */
.bars { position: sticky; top: 0; z-index: 6; }
.save-bar {
  display: flex;
  gap: 8px 12px;
  align-items: center;
  flex-wrap: wrap;
  border: 1px solid var(--carmine);
  border-left-width: 6px;
  background: var(--carmine-wash);
  border-radius: 4px;
  padding: 8px 12px;
  margin-bottom: 12px;
}
.save-bar p { flex: 1 1 320px; }
ul { flex: 1 1 100%; margin: 0; padding-left: 18px; }
li { padding: 2px 0; overflow-wrap: anywhere; }
li span { margin-right: 10px; }
</style>
