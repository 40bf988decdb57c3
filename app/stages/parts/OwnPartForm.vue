<script setup lang="ts">
/** A part of the maker's own made in a form: what is printed on it, and its pins pasted from wherever they stand. */
import { emptyDraft, partOfDraft } from '~~/core/catalogue/own-form'
import type { Problem } from '~~/core/documents/failure'
import { PIN_ROLES, readPinTable, type PinRole, type PinRow } from '~~/core/catalogue/pin-table'

const { save } = defineProps<{ save: (text: string) => Promise<boolean> }>()
const emit = defineEmits<{ done: [], text: [text: string] }>()
const project = useProjectStore()
const draft = reactive(emptyDraft())
const pasted = ref('')
const pins = ref<PinRow[]>([])
watch(pasted, text => pins.value = readPinTable(text))
const GROUPS = [...new Set([...project.catalogue.parts.values()].map(entry => entry.group))]
const ROLES = Object.entries(PIN_ROLES).map(([value, title]) => ({ value, title }))
const DIRECTIONS = [
  { value: 'in', title: 'into the part' }, { value: 'out', title: 'out of the part' },
  { value: 'both', title: 'both ways' },
]
const has = (...roles: PinRole[]) => pins.value.some(pin => roles.includes(pin.role))
const part = computed(() => partOfDraft({ ...draft, pins: pins.value }, new Set(project.catalogue.parts.keys())))
/** What keeps it from being a part, in words; the file check says the rest. */
const missing = computed(() => [
  ...draft.name.trim() === '' ? ['a name'] : [],
  ...pins.value.some(pin => pin.role !== 'none') ? [] : ['its pins'],
  ...has('i2c.sda') !== has('i2c.scl') ? ['the other line of its I²C'] : [],
  ...has('spi.clock') && !has('spi.mosi', 'spi.miso') ? ['a data line of its SPI'] : [],
])
type Unknown = 'readsHighV' | 'widthMm' | 'depthMm' | 'aboveMm'
type NumberField = Unknown | 'idleMa' | 'typicalMa' | 'peakMa' | 'highV' | 'spiHz' | 'baud'
const MAY_BE_UNKNOWN: readonly NumberField[] = ['readsHighV', 'widthMm', 'depthMm', 'aboveMm']
const isUnknown = (name: NumberField): name is Unknown => MAY_BE_UNKNOWN.includes(name)
/** Figures that are asked, those of a bus where the pins have one. An empty field is not known, where that may be. */
const FIELDS = computed<{ name: NumberField, label: string, unit: string }[]>(() => [
  { name: 'idleMa', label: 'Draws idle', unit: 'mA' }, { name: 'typicalMa', label: 'typical', unit: 'mA' },
  { name: 'peakMa', label: 'at peak', unit: 'mA' }, { name: 'highV', label: 'Its outputs give when high', unit: 'V' },
  { name: 'readsHighV', label: 'Reads a high from', unit: 'V' },
  ...has('spi.clock') ? [{ name: 'spiHz' as const, label: 'SPI clock at most', unit: 'Hz' }] : [],
  ...has('serial.tx', 'serial.rx') ? [{ name: 'baud' as const, label: 'Serial rate', unit: 'baud' }] : [],
  { name: 'widthMm', label: 'Size: along the header', unit: 'mm' },
  { name: 'depthMm', label: 'away from it', unit: 'mm' },
  { name: 'aboveMm', label: 'how high', unit: 'mm' },
])
function setField(name: NumberField, text: unknown) {
  if (isUnknown(name)) draft[name] = String(text).trim() === '' ? null : asNumber(text)
  else draft[name] = asNumber(text)
}
/** Where each field lies in the part that is made of them. */
const PLACES: Readonly<Record<NumberField | 'name' | 'address', RegExp>> = {
  name: /^(name|summary|id)$/, idleMa: /^supplies\[\d+\]\.idleMa$/, typicalMa: /^supplies\[\d+\]\.typicalMa$/,
  peakMa: /^supplies\[\d+\]\.peakMa$/, highV: /\.outputHighV\b/, readsHighV: /\.inputHighMinV\b/, spiHz: /^spi\b/,
  baud: /^serial\b/,
  address: /^i2c\b/, widthMm: /^body\.widthMm$/, depthMm: /^body\.depthMm$/, aboveMm: /^body\.aboveMm$/,
}
const { problems, at } = useSchemaForm(() => part.value, async () => {
  const { readOwn } = await import('~~/core/catalogue/own-read')
  return (made): readonly Problem[] => {
    const read = readOwn(JSON.stringify(made))
    return read.ok ? [] : read.problems
  }
}, error => problem.value = `The fields cannot be checked while they are typed: ${error.message}. The whole is, when `
  + 'it is kept.')
/** What a field breaks, without the path that the file would name. */
const wrongAt = (name: keyof typeof PLACES) => draft.name.trim() === '' && name === 'name'
  ? []
  : at(PLACES[name]).map(message => message.replace(/^"[^"]*" /, ''))
const elsewhere = computed(() =>
  problems.value.filter(({ path }) => !Object.values(PLACES).some(place => place.test(path))))
const asNumber = (text: unknown) => Number(String(text).replace(',', '.'))
const problem = ref('')

async function keep() {
  const text = JSON.stringify(part.value, null, 2)
  if (await save(text)) return emit('done')
  problem.value = 'It is not a part yet: see what is said below its text.'
  emit('text', text)
}
</script>

<template>
  <div
    class="form"
    data-test="own-part-form"
  >
    <div class="grid">
      <v-text-field
        v-model="draft.name"
        label="Name"
        maxlength="200"
        :error-messages="wrongAt('name')"
        data-test="own-form-name"
      />
      <v-select
        v-model="draft.group"
        :items="GROUPS"
        label="For"
      />
      <v-select
        v-model="draft.rail"
        :items="[{ value: '3V3', title: '3.3 V' }, { value: '5V', title: '5 V' }]"
        label="Fed with"
      />
    </div>
    <v-textarea
      v-model="pasted"
      label="Its pins: paste the table from the data sheet, a page or a spreadsheet, or type one label a line"
      rows="4"
      auto-grow
      max-rows="14"
      spellcheck="false"
      data-test="own-form-pins"
    />
    <v-table
      v-if="pins.length"
      density="compact"
      class="pins"
    >
      <thead>
        <tr>
          <th scope="col">
            Pin
          </th><th scope="col">
            Read as
          </th><th scope="col">
            Signal goes
          </th><th scope="col">
            It says
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(pin, i) in pins"
          :key="i"
          :class="{ unsure: pin.unsure }"
        >
          <td class="figures">
            {{ pin.label }}
          </td>
          <td>
            <v-select
              v-model="pin.role"
              :items="ROLES"
              :aria-label="`What ${pin.label} is`"
              density="compact"
              variant="plain"
              hide-details
              @update:model-value="pin.unsure = false"
            />
          </td>
          <td>
            <v-select
              v-if="!['supply', 'ground', 'none'].includes(pin.role)"
              v-model="pin.direction"
              :items="DIRECTIONS"
              :aria-label="`Which way ${pin.label} goes`"
              density="compact"
              variant="plain"
              hide-details
            />
          </td>
          <td class="small quiet">
            {{ [pin.unsure ? 'a guess: please look' : '', pin.note].filter(Boolean).join('; ') }}
          </td>
        </tr>
      </tbody>
    </v-table>
    <div class="grid">
      <v-text-field
        v-for="field in FIELDS"
        :key="field.name"
        :model-value="draft[field.name] ?? ''"
        :label="field.label"
        :suffix="field.unit"
        :placeholder="isUnknown(field.name) ? 'not known' : ''"
        inputmode="decimal"
        :error-messages="wrongAt(field.name)"
        :data-test="`own-form-${field.name}`"
        @update:model-value="setField(field.name, $event)"
      />
      <v-text-field
        v-if="has('i2c.sda', 'i2c.scl')"
        v-model="draft.address"
        label="I²C address"
        placeholder="0x44"
        :error-messages="wrongAt('address')"
        data-test="own-form-address"
      />
    </div>
    <p
      v-for="other in pins.length && draft.name.trim() ? elsewhere : []"
      :key="other.path + other.message"
      class="problem small"
    >
      <code class="figures">{{ other.path }}</code> {{ other.message }}
    </p>
    <p
      v-if="problem"
      role="alert"
      class="problem small"
    >
      {{ problem }}
    </p>
    <div class="acts">
      <v-btn
        size="small"
        color="primary"
        :disabled="missing.length > 0"
        data-test="own-form-keep"
        @click="keep"
      >
        Keep it
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        @click="emit('text', JSON.stringify(part, null, 2))"
      >
        Go on in its text
      </v-btn>
      <v-btn
        size="small"
        variant="outlined"
        @click="emit('done')"
      >
        Leave it
      </v-btn>
      <span
        v-if="missing.length"
        class="small quiet"
      >It still wants {{ missing.join(' and ') }}.</span>
    </div>
  </div>
</template>

<style scoped>
.form { display: grid; gap: 12px; margin: 10px 0; }
.grid { display: grid; grid-template-columns: repeat(auto-fill, minmax(190px, 1fr)); gap: 10px; }
.pins { background: var(--sheet); border: 1px solid var(--rule); border-radius: 3px; }
.unsure td:first-child { border-left: 3px solid var(--ochre); }
.acts { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.problem { color: var(--carmine); margin: 0; }
</style>
