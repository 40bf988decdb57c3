<script setup lang="ts">
/** What was deleted, for thirty days. */
import { BIN_MS, type Head } from '~/database/projects'

const { heads } = defineProps<{ heads: readonly Head[] }>()
const emit = defineEmits<{ takeBack: [ids: string[]], removeForGood: [ids: string[]] }>()

const asked = ref<Head[] | null>(null)
const daysLeft = ({ binMs = 0 }: Head) => Math.max(1, Math.ceil((BIN_MS - binMs) / 86_400_000))

function removeForGood() {
  emit('removeForGood', asked.value!.map(head => head.id))
  asked.value = null
}
</script>

<template>
  <section
    class="bin"
    data-test="bin"
    aria-label="Bin"
  >
    <div class="head">
      <h2>Bin</h2>
      <p class="quiet small">
        What is here can be taken back for thirty days, and goes for good after that.
        A clock that is set back does not shorten the time; one that leaps ahead takes a week of it at most.
      </p>
      <span class="spacer" />
      <v-btn
        v-if="heads.length > 1"
        size="small"
        variant="text"
        color="error"
        @click="asked = [...heads]"
      >
        Empty the bin
      </v-btn>
    </div>
    <p
      v-if="!heads.length"
      class="quiet"
    >
      The bin is empty.
    </p>
    <ul v-else>
      <li
        v-for="head in heads"
        :key="head.id"
      >
        <span class="name">{{ head.name }}</span>
        <span class="quiet small">deleted {{ dayAndTime(head.deletedAt!) }} · stays {{ daysLeft(head) }} more
          {{ daysLeft(head) === 1 ? 'day' : 'days' }} at least</span>
        <span class="spacer" />
        <v-btn
          size="small"
          variant="text"
          @click="emit('takeBack', [head.id])"
        >
          Take back
        </v-btn>
        <v-btn
          size="small"
          variant="text"
          color="error"
          @click="asked = [head]"
        >
          Delete for good
        </v-btn>
      </li>
    </ul>
    <v-dialog
      :model-value="asked !== null"
      aria-label="Delete for good"
      @update:model-value="asked = null"
    >
      <v-card
        :title="asked?.length === 1 ? `Delete “${asked[0]!.name}” for good?` : `Delete ${asked?.length} projects for good?`"
        text="Its plan, its earlier states, its logbook and its files go with it. There is no way back but a backup."
      >
        <v-card-actions>
          <v-btn @click="asked = null">
            Keep
          </v-btn>
          <v-btn
            color="error"
            @click="removeForGood"
          >
            Delete for good
          </v-btn>
        </v-card-actions>
      </v-card>
    </v-dialog>
  </section>
</template>

<style scoped>
.bin { margin-top: 28px; border-top: 3px solid var(--rule); padding-top: 14px; }
.head { display: flex; gap: 14px; align-items: baseline; flex-wrap: wrap; }
.spacer { flex: 1; }
ul { list-style: none; margin: 8px 0 0; padding: 0; }
li { display: flex; gap: 12px; align-items: center; flex-wrap: wrap; padding: 6px 0; border-bottom: 1px solid var(--rule); }
.name { font-weight: 650; overflow-wrap: anywhere; }
</style>
