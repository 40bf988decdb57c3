<script setup lang="ts">
/** How this browser shows things. Nothing here belongs to a plan. */
import { CURRENCIES } from '~/stores/view'

const view = useViewStore()
const THEMES = [{ value: 'system', title: 'As the machine has it' }, { value: 'light', title: 'Light' },
  { value: 'dark', title: 'Dark' }]
const NUMBERS = [{ value: 'position', title: 'Positions' }, { value: 'line', title: 'Lines' }]
const TEMPERATURES = [{ value: 'C', title: '°C' }, { value: 'F', title: '°F' }]
const LENGTHS = [{ value: 'metric', title: 'mm, cm, m' }, { value: 'inch', title: 'inch, foot' }]
const MONEY = [
  { value: '', title: 'A bare number' },
  ...CURRENCIES.map(value => ({ value,
    title: `${value}, ${new Intl.DisplayNames('en', { type: 'currency' }).of(value)}` })),
]
const GAUGES = [{ value: 'awg', title: 'AWG' }, { value: 'mm2', title: 'mm²' }]
</script>

<template>
  <FrameDialog
    v-model="view.settingsOpen"
    title="Settings"
    test="settings"
  >
    <div class="settings">
      <v-select
        v-model="view.theme"
        :items="THEMES"
        label="Light or dark"
        data-test="setting-theme"
      />
      <v-select
        v-model="view.temperatureUnit"
        :items="TEMPERATURES"
        label="Temperatures"
        data-test="setting-temperature"
      />
      <v-select
        v-model="view.lengthUnit"
        :items="LENGTHS"
        label="Lengths"
        data-test="setting-length"
      />
      <v-select
        v-model="view.gaugeUnit"
        :items="GAUGES"
        label="Wires"
        data-test="setting-gauge"
      />
      <v-select
        v-model="view.currency"
        :items="MONEY"
        label="Prices, which are made up"
        data-test="setting-currency"
      />
      <v-select
        v-model="view.large"
        :items="NUMBERS"
        label="Large numbers on the header"
      />
      <v-switch
        v-model="view.fromBelow"
        label="Header seen from below"
      />
      <v-switch
        v-model="view.turned"
        label="Header turned around"
      />
      <p class="small quiet">
        These stay in this browser. Plans keep every figure in °C, metres and AWG: files are the same for everybody.
      </p>
    </div>
  </FrameDialog>
</template>

<style scoped>
.settings { display: grid; gap: 12px; }
</style>
