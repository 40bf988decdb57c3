<script setup lang="ts">
/** What goes with the board: cooler, housing, image. Heat, clock and boot files are judged on it. */
import type { Cooler, Enclosure } from '~~/core/plan/power'
import { COOLERS, ENCLOSURES } from '~~/core/power/heat/coolers'

const project = useProjectStore()
const { go } = useStages()
const heat = computed(() => project.plan!.power.heat)
const coolers = Object.entries(COOLERS).map(([value, { label }]) => ({ value, title: sentence(label) }))
const enclosures = Object.entries(ENCLOSURES).map(([value, { label }]) => ({ value, title: sentence(label) }))
const IMAGES = [
  { value: 'newer', title: 'Current: its files lie in /boot/firmware' }, { value: 'older', title: 'Older: its files lie in /boot' },
]

const setHeat = (changes: Partial<typeof heat.value>, label: string) =>
  project.edit({ edit: 'set-power', power: { heat: { ...heat.value, ...changes } } }, label)
function setImage(image: 'older' | 'newer') {
  const { boot } = project.plan!
  if (boot) project.edit({ edit: 'set-boot', boot: { ...boot, image } }, 'Choose the image')
}
function sentence(text: string) {
  return text.charAt(0).toUpperCase() + text.slice(1)
}
</script>

<template>
  <section>
    <h2>What goes with it</h2>
    <div class="with">
      <v-select
        :model-value="heat.cooler"
        :items="coolers"
        label="Cooler"
        data-test="board-cooler"
        @update:model-value="value => setHeat({ cooler: value as Cooler }, 'Choose the cooler')"
      />
      <v-select
        :model-value="heat.enclosure"
        :items="enclosures"
        label="Housing"
        data-test="board-enclosure"
        @update:model-value="value => setHeat({ enclosure: value as Enclosure }, 'Choose the housing')"
      />
      <v-select
        :model-value="project.plan!.boot?.image"
        :items="IMAGES"
        label="Image on the card"
        :disabled="!project.plan!.boot"
        :hint="project.plan!.boot ? undefined : 'Read its boot file in first.'"
        :persistent-hint="!project.plan!.boot"
        @update:model-value="value => setImage(value as 'older' | 'newer')"
      />
      <v-btn
        variant="text"
        size="small"
        @click="go('power')"
      >
        How warm it gets
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
h2 { margin: 12px 0 8px; }
.with { display: grid; gap: 10px; grid-template-columns: repeat(auto-fill, minmax(min(100%, 230px), 1fr)); align-items: start; }
</style>
