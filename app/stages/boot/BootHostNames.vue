<script setup lang="ts">
/** Names that stay for like USB things. */
import { newId } from '~/database/id'
import { readUsbThings } from '~~/core/host/usb-read'
import type { UsbName } from '~~/core/plan/host-shape'

const { host, set } = useHost()
const BY = [{ value: 'serial', title: 'by its serial number' }, { value: 'socket', title: 'by the socket it sits in' }]

const add = () => set({ usbNames: [...host.value.usbNames,
  { id: newId(), name: `thing${host.value.usbNames.length + 1}`, by: 'serial',
    value: 'SERIAL' }] }, 'A name that stays')
function change(id: string, fields: { [Name in keyof UsbName]?: UsbName[Name] | undefined }, label: string) {
  set({ usbNames: host.value.usbNames.map(entry => entry.id === id
    ? Object.fromEntries(Object.entries({ ...entry, ...fields })
      .filter(([, value]) => value !== undefined)) as unknown as UsbName
    : entry) }, label)
}
const HEX = /^[0-9a-f]{4}$/

const pasted = ref('')
const told = ref('')
/** Takes in what was pasted: a thing that has a name already gets the new figures. */
function takeIn() {
  const things = readUsbThings(pasted.value)
  if (!things.length) {
    told.value = 'No USB thing is told in this text. It wants what udevadm info printed, with the lines on '
      + 'vendor and product.'
    return
  }
  const names = new Set(host.value.usbNames.map(({ value }) => value))
  const fresh = things.flatMap((thing) => {
    const by = thing.serial ? 'serial' as const : 'socket' as const
    const value = thing.serial ?? thing.socket
    return value === undefined || names.has(value) ? [] : [{ ...thing, by, value }]
  })
  const bare = things.filter(({ serial, socket }) => !serial && !socket).length
  if (fresh.length) {
    const from = host.value.usbNames.length
    set({ usbNames: [...host.value.usbNames, ...fresh.map(({ by, value, vendor, product }, i) =>
      ({ id: newId(), name: `thing${from + i + 1}`, by, value, vendor, product }))] }, 'Names from what was pasted')
  }
  const socketed = fresh.filter(({ by }) => by === 'socket').length
  told.value = [
    `${fresh.length} of ${things.length} taken in: give ${fresh.length === 1 ? 'it' : 'each'} a name.`,
    ...socketed ? [`${socketed} without a number of its own: told by the socket, so leave it plugged where it is.`] : [],
    ...bare ? [`${bare} told neither number nor socket.`] : [],
  ].join(' ')
  pasted.value = ''
}
</script>

<template>
  <FoldPanel
    title="Names that stay for USB things"
    :open="host.usbNames.length > 0"
  >
    <p class="small quiet">
      Two like things come as ttyUSB0 and ttyUSB1 in any order. <code class="figures">udevadm info -a /dev/ttyUSB0</code> tells a thing's
      serial number, and its socket as KERNELS; like things often have no number of their own: then take the socket.
    </p>
    <article
      v-for="entry in host.usbNames"
      :key="entry.id"
      class="fields"
    >
      <LineField
        label="Name: /dev/…"
        :value="entry.name"
        :max="31"
        :pattern="/^[a-z][a-z0-9_-]{0,30}$/"
        says="small letters, digits, dashes and underscores"
        @set="name => name && change(entry.id, { name }, 'The name')"
      />
      <v-select
        label="Told"
        :items="BY"
        :model-value="entry.by"
        @update:model-value="by => change(entry.id, { by }, 'How it is told')"
      />
      <LineField
        :label="entry.by === 'serial' ? 'Serial number' : 'Socket, such as 1-1.2'"
        :value="entry.value"
        :max="80"
        :pattern="/^[A-Za-z0-9._:-]{1,80}$/"
        says="letters, digits, dots, dashes and colons"
        @set="value => value && change(entry.id, { value }, 'What tells it')"
      />
      <LineField
        v-if="entry.by === 'serial'"
        label="Vendor (lsusb)"
        :value="entry.vendor"
        :pattern="HEX"
        says="four hex digits in small letters"
        @set="vendor => change(entry.id, { vendor }, 'Vendor')"
      />
      <LineField
        v-if="entry.by === 'serial'"
        label="Product (lsusb)"
        :value="entry.product"
        :pattern="HEX"
        says="four hex digits in small letters"
        @set="product => change(entry.id, { product }, 'Product')"
      />
      <v-btn
        size="small"
        variant="text"
        @click="set({ usbNames: host.usbNames.filter(other => other.id !== entry.id) }, 'Take the name out')"
      >
        Take out
      </v-btn>
    </article>
    <v-btn
      size="small"
      variant="outlined"
      data-test="usb-name-add"
      @click="add"
    >
      Add a name
    </v-btn>
    <div class="paste">
      <v-textarea
        v-model="pasted"
        class="grow"
        label="Or paste what udevadm info printed, of one thing or several"
        rows="2"
        max-rows="8"
        auto-grow
        data-test="usb-paste"
        spellcheck="false"
      />
      <v-btn
        size="small"
        variant="outlined"
        :disabled="!pasted.trim()"
        data-test="usb-take"
        @click="takeIn"
      >
        Take in
      </v-btn>
    </div>
    <p
      v-if="told"
      class="small"
      role="status"
      data-test="usb-told"
    >
      {{ told }}
    </p>
  </FoldPanel>
</template>

<style scoped>
.paste { display: flex; gap: 10px; align-items: center; padding-top: 8px; }
.grow { flex: 1; min-width: 0; }
.fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(150px, 1fr)); gap: 10px; align-items: center;
  padding: 6px 0 8px; border-bottom: 1px solid var(--rule); margin-bottom: 8px; }
</style>
