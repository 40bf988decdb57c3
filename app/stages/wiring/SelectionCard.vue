<script setup lang="ts">
/** What is chosen: a part with its terminals, or a header position with what it can do. */
const project = useProjectStore()
const view = useViewStore()
const { colourOf, nameOf } = useOwners()
const { current } = useStages()

const part = computed(() => project.facts?.parts.find(entry => entry.id === view.partId) ?? null)
const entry = computed(() => project.facts?.board?.header.find(header => header.position === view.position) ?? null)
const line = computed(() => project.facts?.board?.lines.find(candidate => candidate.line === entry.value?.line) ?? null)
const here = computed(() => entry.value ? project.facts!.atPosition.get(entry.value.position) ?? [] : [])
const reservation = computed(() => project.plan!.reserved.find(item => item.position === view.position))
const functions = computed(() => line.value?.functions
  .map(item => `${item.controller.replace('.', ' ')}${item.signal && item.signal !== 'out' ? ` ${item.signal}` : ''} `
    + `(${item.setting})`)
  .join(', '))
const reason = ref('')

function reserve() {
  project.edit({ edit: 'reserve', position: view.position!, reason: reason.value.trim() || undefined },
    `Reserve position ${view.position}`)
  reason.value = ''
}
</script>

<template>
  <section
    v-if="current.id === 'wiring' && (entry || part)"
    class="selection"
    :style="{ '--owner': part ? colourOf(part.id) : 'var(--ink-2)' }"
    data-test="selection"
  >
    <template v-if="entry">
      <h2>
        Position {{ entry.position }} <span class="figures quiet">{{ entry.line !== undefined ? `G${entry.line}` : entry.kind === 'ground'
          ? 'GND' : entry.kind }}</span>
      </h2>
      <p
        v-if="line"
        class="small quiet"
      >
        At reset pulled {{ line.resetPull }}{{ line.fixedPullUpOhm ? `, ${line.fixedPullUpOhm} Ω to 3V3 on the board` : '' }}. Can be: a
        line{{ functions ? `, ${functions}` : '' }}.
      </p>
      <p
        v-if="here.length > 1"
        class="small"
      >
        Held by {{ here.map(terminal => `${terminal.owner.name} ${terminal.label}`).join(', ') }}.
      </p>
      <p
        v-if="entry.identity"
        class="small"
      >
        Kept for an add-on board's identity memory.
      </p>
      <div
        v-if="reservation"
        class="reserve"
      >
        <span class="small">Reserved{{ reservation.reason ? `: ${reservation.reason}` : '' }}.</span>
        <v-btn
          size="small"
          variant="outlined"
          @click="project.edit({ edit: 'unreserve', position: entry!.position }, `Give position ${entry!.position} free`)"
        >
          Give free
        </v-btn>
      </div>
      <v-form
        v-else-if="!here.length && !entry.identity"
        class="reserve"
        @submit.prevent="reserve"
      >
        <v-text-field
          v-model="reason"
          placeholder="why keep it free?"
          aria-label="Reason for reserving"
          maxlength="300"
        />
        <v-btn
          size="small"
          variant="outlined"
          type="submit"
        >
          Reserve
        </v-btn>
      </v-form>
    </template>
    <template v-if="part && (!entry || here.length)">
      <h2 class="part-name">
        <span class="owner-swatch" />{{ nameOf(part.id) }}
      </h2>
      <PartTerminals :part-id="part.id" />
    </template>
  </section>
</template>

<style scoped>
.selection {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-left: 6px solid var(--owner);
  border-radius: 4px;
  padding: 9px 10px 10px 12px;
  display: grid;
  gap: 6px;
}
.part-name { display: flex; gap: 8px; align-items: center; overflow-wrap: anywhere; }
.reserve { display: flex; gap: 6px; align-items: center; }
</style>
