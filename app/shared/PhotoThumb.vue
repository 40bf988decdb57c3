<script setup lang="ts">
/** A small picture that opens at its full size, where it can be saved and taken off. */
import type { PhotoRef } from '~~/core/plan/types'

const { photo, what } = defineProps<{ photo: PhotoRef, what: string }>()
const emit = defineEmits<{ drop: [] }>()
const { url, failure, jpeg } = usePhotoUrl(() => photo.id)
const isOpen = ref(false)
const save = () => jpeg.value && download(fileName(what.slice(0, 60) || 'photo', '.jpg'), jpeg.value, 'image/jpeg')
function drop() {
  isOpen.value = false
  emit('drop')
}
</script>

<template>
  <span
    v-if="failure"
    class="missing small quiet"
    data-test="photo-missing"
  >{{ failure }}
    <v-btn
      class="act"
      variant="text"
      size="x-small"
      @click="emit('drop')"
    >take the name off</v-btn></span>
  <v-btn
    v-else
    class="thumb"
    variant="text"
    :ripple="false"
    :aria-label="`Photo: ${what}`"
    data-test="photo"
    @click="isOpen = true"
  >
    <v-img
      v-if="url"
      :src="url"
      :alt="what"
      width="88"
      height="66"
      cover
    />
    <span v-else>…</span>
  </v-btn>
  <FrameDialog
    v-if="isOpen"
    v-model="isOpen"
    title="Photo"
    :width="1000"
    test="photo-dialog"
  >
    <v-img
      :src="url ?? ''"
      :alt="what"
      max-height="66vh"
    />
    <p class="said">
      {{ what }} <span class="small quiet figures">{{ photo.widthPx }} × {{ photo.heightPx }}</span>
    </p>
    <template #acts>
      <v-btn
        variant="text"
        @click="save"
      >
        Save as a file
      </v-btn>
      <v-btn
        variant="text"
        data-test="photo-drop"
        @click="drop"
      >
        Take it off
      </v-btn>
    </template>
  </FrameDialog>
</template>

<style scoped>
.thumb { padding: 0; min-width: 0; width: 88px; height: 66px; border: 1px solid var(--rule); border-radius: 3px; overflow: hidden; }
.thumb :deep(.v-btn__content) { display: block; width: 88px; height: 66px; }
.missing { display: block; flex-basis: 100%; }
.said { margin-top: 8px; white-space: pre-wrap; overflow-wrap: anywhere; }
</style>
