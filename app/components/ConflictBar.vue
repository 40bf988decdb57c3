<script setup lang="ts">
/** What stands between this tab and a saved plan: a conflict with another tab, or a failed save. */
const project = useProjectStore()
const view = useViewStore()

async function keepBoth() {
  const id = await project.keepMineAsCopy()
  if (!id) return
  view.say('Your version is now a project of its own.')
  await navigateTo(`/project/${id}/wiring`)
}
</script>

<template>
  <div
    v-if="project.saveState.state === 'conflict'"
    class="bar"
    role="alert"
    data-test="conflict"
  >
    <p>
      <b>Another tab changed this project at {{ clockTime(project.saveState.theirs.updatedAt) }}.</b> Nothing was overwritten. What you see
      here is yours and is not saved yet.
    </p>
    <v-btn
      color="primary"
      size="small"
      @click="keepBoth"
    >
      Keep both: save mine as a copy
    </v-btn>
    <v-btn
      variant="outlined"
      size="small"
      @click="project.takeTheirs"
    >
      Take the other tab's
    </v-btn>
  </div>
  <div
    v-else-if="project.saveState.state === 'failed'"
    class="bar"
    role="alert"
  >
    <p>
      <b>This change is not saved:</b> {{ project.saveState.message }} Free some space in this browser, or export the project from the
      list, then try again.
    </p>
    <v-btn
      color="primary"
      size="small"
      @click="project.retrySave"
    >
      Save again
    </v-btn>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
  border: 1px solid var(--carmine);
  border-left-width: 6px;
  background: var(--carmine-wash);
  border-radius: 4px;
  padding: 8px 12px;
  margin-bottom: 12px;
}
.bar p { flex: 1 1 320px; }
</style>
