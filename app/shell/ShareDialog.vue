<script setup lang="ts">
/** Giving the plan to somebody: as a sheet that opens anywhere, as an address, or as a file. */
import { inWords } from '~/database/failures'
import { photosNamed } from '~/database/photos'
import { SAFE_LETTERS, fragmentOf } from '~~/core/share/address'
import { sheetOf } from '~~/core/share/sheet'

const project = useProjectStore()
const view = useViewStore()
const { exportWhole } = useTransfer()
/** With its photos, where there are any. */
const photos = computed(() => photosNamed(project.plan!.log).length)
async function save() {
  try {
    await exportWhole(project.id!, project.plan!)
  }
  catch (error) {
    view.say(`Not saved: ${inWords(error)}`, { tone: 'stop' })
  }
}
const fragment = computed(() => project.plan ? fragmentOf(project.plan) : '')
const address = computed(() => `${location.origin}/shared#${fragment.value}`)
const isLong = computed(() => address.value.length > SAFE_LETTERS)

function takeSheet() {
  const style = getComputedStyle(document.documentElement)
  const colourOf = (id: string) =>
    style.getPropertyValue(`--owner-${project.plan!.parts.findIndex(part => part.id === id) % 12}`).trim()
  download(fileName(project.plan!.name, '.html'),
    sheetOf(project.facts!, project.report!, new Date().toISOString(), colourOf), 'text/html')
}

const copyText = useCopy()
const copy = () => copyText(address.value, 'The address')
</script>

<template>
  <FrameDialog
    v-model="view.shareOpen"
    title="Share"
    test="share"
  >
    <div class="ways">
      <section>
        <h3>As a sheet</h3>
        <p class="small">
          One page with header, wires, parts, boot file and findings. It opens in any browser, prints, and can be imported here again.
        </p>
        <v-btn
          size="small"
          color="primary"
          data-test="share-sheet"
          @click="takeSheet"
        >
          Save the sheet
        </v-btn>
      </section>
      <section>
        <h3>As an address</h3>
        <p class="small">
          The whole plan is in the address itself, behind the #: no server gets it. Who opens it can look, and make a copy.
          Notes and logbook go with it.
        </p>
        <v-text-field
          :model-value="address"
          readonly
          aria-label="Address of the plan"
          data-test="share-address"
          @focus="($event.target as HTMLInputElement).select()"
        />
        <p
          v-if="isLong"
          class="small long"
        >
          It has {{ address.length }} letters: some programs cut it off. Send the file or the sheet instead.
        </p>
        <v-btn
          size="small"
          variant="outlined"
          @click="copy"
        >
          Copy the address
        </v-btn>
      </section>
      <section>
        <h3>As a file</h3>
        <v-btn
          size="small"
          variant="outlined"
          data-test="share-file"
          @click="save"
        >
          {{ photos ? `Save the plan with its ${photos} ${photos === 1 ? 'photo' : 'photos'}` : 'Save the plan' }}
        </v-btn>
      </section>
    </div>
  </FrameDialog>
</template>

<style scoped>
.ways, section { display: grid; gap: 8px; justify-items: start; }
.ways { gap: 18px; }
section, section .v-input { width: 100%; }
.long { color: var(--ochre); }
</style>
