<script setup lang="ts">
/** The board's name, its user, where it stands, and who may log in. */
import { HOST_NAME, USER_NAME, type Host } from '~~/core/plan/host-shape'

const KEY = /^(ssh|ecdsa|sk)-[a-z0-9@.-]+ [A-Za-z0-9+/=]+( [^\n\r]*)?$/
const POWER_KEY = [
  { value: '', title: 'as the image has it' }, { value: 'poweroff', title: 'shuts down' },
  { value: 'reboot', title: 'starts anew' },
  { value: 'ignore', title: 'does nothing' },
]
const { host, set } = useHost()
const open = ref(true)
const keysTyped = ref((host.value.keys ?? []).join('\n'))
watch(() => host.value.keys, keys => keysTyped.value = (keys ?? []).join('\n'))
const keysProblem = ref('')

function keys() {
  const lines = keysTyped.value.split('\n').map(line => line.trim()).filter(Boolean)
  const wrong = lines.find(line => !KEY.test(line))
  keysProblem.value = wrong
    ? /PRIVATE/.test(wrong)
      ? 'That is a private key: it stays with you. Give the public one, which ends in .pub.'
      : `"${wrong.slice(0, 30)}…" is no public key: it begins with ssh-ed25519 or the like.`
    : ''
  if (!wrong && lines.join('\n') !== (host.value.keys ?? []).join('\n')) set({ keys: lines.length
    ? lines
    : undefined }, 'Public keys')
}
</script>

<template>
  <FoldPanel
    v-model:open="open"
    title="The board and who works on it"
  >
    <div class="fields">
      <LineField
        label="Name on the network"
        :value="host.name"
        :pattern="HOST_NAME"
        says="letters, digits and dashes"
        placeholder="hive"
        test="host-name"
        @set="name => set({ name }, 'Name the board')"
      />
      <LineField
        label="User"
        :value="host.user"
        :pattern="USER_NAME"
        says="small letters, digits, dashes and underscores"
        placeholder="keeper"
        test="host-user"
        @set="user => set({ user }, 'Name the user')"
      />
      <LineField
        label="Time zone"
        :value="host.timeZone"
        :pattern="/^[A-Za-z_]+(?:\/[A-Za-z0-9_+-]+){0,2}$/"
        says="a zone such as Europe/Rome"
        placeholder="Europe/Rome"
        @set="timeZone => set({ timeZone }, 'Time zone')"
      />
      <LineField
        label="Language and country"
        :value="host.language"
        :pattern="/^[a-z]{2,3}_[A-Z]{2}$/"
        says="such as en_GB"
        placeholder="en_GB"
        @set="language => set({ language }, 'Language')"
      />
      <LineField
        label="Keyboard layout"
        :value="host.layout"
        :pattern="/^[a-z]{2,8}$/"
        says="a layout such as us, gb or de"
        placeholder="us"
        @set="layout => set({ layout }, 'Keyboard layout')"
      />
      <v-select
        label="Power key"
        :items="POWER_KEY"
        :model-value="host.powerKey ?? ''"
        data-test="host-power-key"
        @update:model-value="value => set({ powerKey: (value || undefined) as Host['powerKey'] }, 'Power key')"
      />
      <v-switch
        label="Remote shell"
        :model-value="host.remote ?? false"
        data-test="host-remote"
        @update:model-value="value => set({ remote: value || undefined }, 'Remote shell')"
      />
      <LineField
        label="Program that shows keys on the screen"
        :value="host.screenKeys"
        placeholder="as it is started"
        :max="1000"
        @set="screenKeys => set({ screenKeys }, 'Keys on the screen')"
      />
    </div>
    <v-textarea
      v-model="keysTyped"
      label="Public keys that may log in, one a line"
      rows="2"
      auto-grow
      max-rows="5"
      class="figures"
      :error-messages="keysProblem"
      data-test="host-keys"
      @blur="keys"
    />
    <p class="small quiet">
      No password has a place here. Where one is needed the file has a line for its hash.
    </p>
  </FoldPanel>
</template>

<style scoped>
.fields { display: grid; grid-template-columns: repeat(auto-fill, minmax(128px, 1fr)); gap: 10px; margin: 4px 0 10px; }
</style>
