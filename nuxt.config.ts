export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  ssr: false,
  telemetry: false,
  devtools: { enabled: false },
  srcDir: 'app/',
  serverDir: 'server/',
  modules: ['@pinia/nuxt', 'vuetify-nuxt-module', '@nuxt/eslint'],
  css: [
    '@fontsource-variable/atkinson-hyperlegible-next/index.css',
    '@fontsource-variable/atkinson-hyperlegible-mono/index.css',
    '~/assets/base.css',
  ],
  components: [{ path: '~/components', pathPrefix: false }],
  app: {
    head: {
      title: 'Voltaris',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'description', content: 'Plans, checks, wires and brings up single-board computer projects.' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  runtimeConfig: { public: { demo: false } },
  vuetify: { vuetifyOptions: './vuetify.options.ts', moduleOptions: { disableVuetifyStyles: false } },
  eslint: { config: { stylistic: { braceStyle: 'stroustrup' } } },
  typescript: { strict: true, typeCheck: false },
  vite: { worker: { format: 'es' }, build: { chunkSizeWarningLimit: 1200 } },
  nitro: { compressPublicAssets: { gzip: true } },
})
