<script setup lang="ts">
/** Overlays made for parts: from how the kernel knows the part and where the plan puts it. */
import { isMade } from '~~/core/overlays/asks/fit'
import { overlayBlob, overlayForPart } from '~~/core/overlays/write'

const project = useProjectStore()
const { boot, setBoot } = useBoot()
const { colourOf } = useOwners()
const chosen = ref<string | null>(null)
const made = computed(() => new Set(boot.value?.made))
const rows = computed(() => project.facts!.parts.map(owner => ({
  owner, binding: owner.part.kernel, overlay: overlayForPart(project.facts!, owner),
  /** Loaded without being ticked: no overlay of the image can be told of its place. */
  byItself: isMade(owner, project.facts!) && !made.value.has(owner.id),
  ready: (owner.part.boot ?? []).some(need => need.kind === 'overlay'),
})))
const withBinding = computed(() => rows.value.filter(row => row.binding))
const without = computed(() => rows.value.filter(row => row.owner.signals.length > 0 && !row.binding))
const shown = computed(() =>
  withBinding.value.find(row => row.owner.id === chosen.value) ?? withBinding.value.find(row => row.overlay.ok)
  ?? withBinding.value[0])

function use(id: string, on: boolean) {
  chosen.value = id
  const next = on ? [...made.value, id] : [...made.value].filter(other => other !== id)
  setBoot({ made: next }, on ? 'Load the overlay made for the part' : 'Do not load the overlay made for the part')
}

function takeSource() {
  const { overlay } = shown.value!
  if (overlay.ok) download(`${overlay.name}.dts`, overlay.source, 'text/plain')
}

function takeBlob() {
  const { overlay } = shown.value!
  if (overlay.ok) download(`${overlay.name}.dtbo`, overlayBlob(overlay.source), 'application/octet-stream')
}
</script>

<template>
  <div class="columns">
    <section>
      <p class="small quiet lead">
        For each part that the kernel has a driver for: a complete overlay, with the lines, address and bus of this plan. Tick one, and the
        boot file loads it.
      </p>
      <ul
        class="sheet list"
        data-test="part-overlays"
      >
        <li
          v-for="{ owner, overlay, ready, byItself } in withBinding"
          :key="owner.id"
          :class="{ chosen: shown?.owner.id === owner.id }"
          :style="{ '--owner': colourOf(owner.id) }"
        >
          <v-checkbox-btn
            :model-value="made.has(owner.id) || byItself"
            :disabled="byItself || (!overlay.ok && !made.has(owner.id))"
            :aria-label="`Load the overlay for ${owner.name}`"
            :data-test="`make-${owner.id}`"
            @update:model-value="value => use(owner.id, value === true)"
          />
          <v-btn
            variant="text"
            class="grows shows"
            @click="chosen = owner.id"
          >
            <span class="words">
              <span class="owner-swatch" /> <b>{{ owner.name }}</b>
              <span
                class="small quiet block"
              >{{ overlay.ok ? overlay.name : overlay.why }}</span>
              <span
                v-if="byItself"
                class="small hint block"
              >Loaded as it stands: the image's overlay for it cannot be told of its place.</span>
              <span
                v-else-if="ready && overlay.ok"
                class="small hint block"
              >The image has an overlay for it already; this one says the same by itself. Load one of the two.</span>
            </span>
          </v-btn>
        </li>
        <li
          v-if="!withBinding.length"
          class="quiet"
        >
          No part of the plan has a kernel driver that Voltaris knows. Programs drive them by themselves.
        </li>
      </ul>
      <p
        v-if="without.length"
        class="small quiet"
      >
        No overlay wanted for {{ without.map(row => row.owner.name).join(', ') }}: {{ without.length === 1 ? 'its' : 'their' }} programs do
        without a kernel driver.
      </p>
    </section>
    <section v-if="shown">
      <div class="row">
        <h2>{{ shown.owner.name }}</h2>
        <span class="spacer" />
        <v-btn
          size="x-small"
          variant="outlined"
          :disabled="!shown.overlay.ok"
          data-test="overlay-source"
          @click="takeSource"
        >
          Source
        </v-btn>
        <v-btn
          size="x-small"
          variant="outlined"
          :disabled="!shown.overlay.ok"
          data-test="overlay-blob"
          @click="takeBlob"
        >
          Blob
        </v-btn>
      </div>
      <pre
        v-if="shown.overlay.ok"
        class="sheet source figures"
        tabindex="0"
        data-test="overlay-text"
      >{{ shown.overlay.source }}</pre>
      <p
        v-else
        class="sheet source"
      >
        {{ shown.overlay.why }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; gap: 14px; grid-template-columns: minmax(0, 4fr) minmax(0, 5fr); }
@media (max-width: 1000px) { .columns { grid-template-columns: minmax(0, 1fr); } }
.lead { margin-bottom: 8px; }
.list { list-style: none; margin: 0 0 10px; padding: 0; }
.list li {
  display: grid;
  grid-template-columns: 30px 1fr;
  gap: 6px;
  padding: 8px 10px;
  border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent);
  align-items: start;
}
.list .quiet:only-child { display: block; }
.chosen { background: color-mix(in srgb, var(--copper) 10%, transparent); }
.block { display: block; overflow-wrap: anywhere; }
.shows { justify-content: start; font-weight: 400; padding: 0; }
.words { text-align: start; }
.hint { color: var(--ochre); }
.row { display: flex; gap: 6px; align-items: center; margin-bottom: 6px; }
.spacer { flex: 1; }
.source { margin: 0; padding: 10px 12px; font-size: 12.5px; line-height: 1.5; overflow: auto; max-height: 64vh; tab-size: 4; }
</style>
