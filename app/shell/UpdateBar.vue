<script setup lang="ts">
/** A newer version is there: taken when the person says so. */
const project = useProjectStore()
const view = useViewStore()
const busy = ref(false)

async function take() {
  busy.value = true
  await project.settled()
  view.update?.take()
}
</script>

<template>
  <v-snackbar
    :model-value="true"
    :timeout="-1"
    location="top center"
    color="secondary"
  >
    <span
      role="status"
      data-test="update"
    >{{ view.update?.taken
      ? 'Another tab has taken a newer version of Voltaris. This one goes on with the older; load it again when it suits you.'
      : 'A newer version of Voltaris is there. Nothing changes until you take it.' }}</span>
    <template #actions>
      <v-btn
        variant="text"
        :loading="busy"
        @click="take"
      >
        {{ view.update?.taken ? 'Load again' : 'Take it' }}
      </v-btn>
      <v-btn
        variant="text"
        @click="view.update = null"
      >
        Later
      </v-btn>
    </template>
  </v-snackbar>
</template>
