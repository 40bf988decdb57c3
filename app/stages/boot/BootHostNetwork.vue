<script setup lang="ts">
/** A radio network by its name, and an address that stays. */
import { IPV4, IPV4_WIDTH, type Host } from '~~/core/plan/host-shape'

const { host, set } = useHost()
type Address = NonNullable<Host['address']>

function radio(fields: Partial<NonNullable<Host['radio']>>) {
  const next = { network: host.value.radio?.network ?? '', country: host.value.radio?.country ?? 'AT', ...fields }
  set({ radio: next.network ? next : undefined }, 'Radio network')
}

function address(fields: { [Name in keyof Address]?: Address[Name] | undefined }) {
  const next = { interface: 'eth0', ...host.value.address, ...fields }
  const kept = Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as unknown as Address
  set({ address: kept.address ? kept : undefined }, 'Fixed address')
}
</script>

<template>
  <FoldPanel title="Network: radio, fixed address">
    <div class="fields">
      <LineField
        label="Radio network"
        :value="host.radio?.network"
        :max="32"
        :pattern="/^[^&quot;\\]+$/"
        says="its name as lists show it"
        test="host-radio"
        @set="network => radio({ network: network ?? '' })"
      />
      <LineField
        v-if="host.radio"
        label="Country"
        :value="host.radio.country"
        :pattern="/^[A-Z]{2}$/"
        says="two capital letters"
        @set="country => radio({ country: country ?? 'AT' })"
      />
      <LineField
        label="Fixed address with its width"
        :value="host.address?.address"
        :pattern="IPV4_WIDTH"
        says="such as 192.168.7.20/24"
        placeholder="192.168.7.20/24"
        test="host-address"
        @set="value => address({ address: value })"
      />
      <template v-if="host.address">
        <LineField
          label="Interface"
          :value="host.address.interface"
          :pattern="/^[a-z][a-z0-9]{0,14}$/"
          says="such as eth0 or wlan0"
          @set="value => address({ interface: value ?? 'eth0' })"
        />
        <LineField
          label="Router"
          :value="host.address.gateway"
          :pattern="IPV4"
          says="four numbers with dots"
          placeholder="192.168.7.1"
          test="host-gateway"
          @set="gateway => address({ gateway })"
        />
        <LineField
          label="Who knows names"
          :value="host.address.names?.join(', ')"
          :pattern="/^[\d., ]+$/"
          says="addresses, apart by commas"
          @set="value => address({ names: value?.split(/[ ,]+/).filter(Boolean) })"
        />
      </template>
    </div>
    <p class="small quiet">
      Keep a fixed address out of what the router hands out. The key of a radio network is never kept here: its line in the file says where
      it goes.
    </p>
  </FoldPanel>
</template>

<style scoped>
.fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(128px, 1fr)); gap: 10px; margin: 4px 0 8px; }
</style>
