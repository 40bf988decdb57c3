export default defineNuxtConfig({
  modules: ['@pinia/nuxt', 'vuetify-nuxt-module', '@nuxt/eslint'],
  ssr: false,
  components: [{ path: '~/components', pathPrefix: false }],
  devtools: { enabled: false },
  app: {
    head: {
      title: 'Voltaris',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'description', content: 'Plans, checks, wires and brings up single-board computer projects.' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  css: [
    '@fontsource-variable/atkinson-hyperlegible-next/index.css',
    '@fontsource-variable/atkinson-hyperlegible-mono/index.css',
    '~/assets/base.css',
  ],
  runtimeConfig: { public: { demo: false } },
  srcDir: 'app/',
  serverDir: 'server/',
  // Other stages are fetched when a pointer or the focus comes near their link, not before the first one is there.
  experimental: { defaults: { nuxtLink: { prefetchOn: { interaction: true, visibility: false } } } },
  compatibilityDate: '2026-01-01',
  nitro: { compressPublicAssets: { gzip: true }, esbuild: { options: { target: 'es2022' } } },
  vite: { worker: { format: 'es' }, build: { chunkSizeWarningLimit: 1200 } },
  typescript: { strict: true, typeCheck: false },
  telemetry: false,
  hooks: {
    // What loads on demand is not asked for before: the first stage comes first.
    'build:manifest': (manifest) => {
      for (const entry of Object.values(manifest)) {
        entry.dynamicImports = []
        entry.prefetch = false
      }
    },
  },
  eslint: { config: { stylistic: { braceStyle: 'stroustrup' } } },
  vuetify: { vuetifyOptions: './vuetify.options.ts', moduleOptions: { disableVuetifyStyles: false } },
})
