<script setup lang="ts">
/** The files before they were written or replaced: to look at, put back or take away. */
const { boot, replaceFiles } = useBoot()
const timeOf = (at: string) => new Date(at).toLocaleString()
const earlier = computed(() => [...boot.value?.before ?? []].reverse())
const open = ref<string | null>(null)

function putBack(entry: { text: string, commandLine?: string }) {
  replaceFiles({ text: entry.text, ...(entry.commandLine !== undefined && { commandLine: entry.commandLine }) },
    'Put an earlier file back')
}
</script>

<template>
  <div class="sheet earlier">
    <p
      v-if="!earlier.length"
      class="quiet"
    >
      None yet. Whenever files are written or replaced here, the ones before are kept: the last ten.
    </p>
    <article
      v-for="entry in earlier"
      :key="entry.at"
    >
      <div class="row">
        <b class="figures">{{ timeOf(entry.at) }}</b>
        <span class="quiet small">{{ entry.text.split('\n').length }} lines{{ entry.commandLine ? ', with its command line' : '' }}</span>
        <span class="spacer" />
        <v-btn
          size="x-small"
          variant="outlined"
          @click="open = open === entry.at ? null : entry.at"
        >
          {{ open === entry.at ? 'Hide' : 'Show' }}
        </v-btn>
        <v-btn
          size="x-small"
          variant="outlined"
          @click="download('config.txt', encodeBoot(entry.text, boot?.encoding), 'text/plain')"
        >
          Download
        </v-btn>
        <v-btn
          size="x-small"
          color="primary"
          data-test="put-back"
          @click="putBack(entry)"
        >
          Put back
        </v-btn>
      </div>
      <pre
        v-if="open === entry.at"
        class="figures"
        tabindex="0"
      >{{ entry.text }}</pre>
    </article>
  </div>
</template>

<style scoped>
.earlier { padding: 10px 12px; border-top-left-radius: 0; }
article { padding: 7px 0; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.row { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.spacer { flex: 1; }
pre { font-size: 12.5px; max-height: 260px; overflow: auto; margin: 6px 0 0; }
</style>
