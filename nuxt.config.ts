import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { bundleThread } from './scripts/bundle.mjs'

const noZlib = fileURLToPath(new URL('app/workers/no-zlib.ts', import.meta.url))

const hasLinter = existsSync(fileURLToPath(new URL('node_modules/@nuxt/eslint', import.meta.url)))

/** Tells one build from another. */
const BUILD = String(Date.now())

/** Nothing but our own files may run, be shown or be asked; styles are set by the interface's library as it draws. */
const POLICY = [
  'default-src \'self\'', 'script-src \'self\'', 'style-src \'self\' \'unsafe-inline\'', 'img-src \'self\' data: blob:',
  'font-src \'self\' data:',
  'connect-src \'self\'', 'worker-src \'self\' blob:', 'manifest-src \'self\'', 'object-src \'none\'', 'base-uri \'none\'',
  'form-action \'self\'', 'frame-ancestors \'none\'',
].join('; ')

const HEADERS = {
  'content-security-policy': POLICY,
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'no-referrer',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(), geolocation=(), microphone=(), payment=()',
}

export default defineNuxtConfig({
  // The linter's module is not there where only what runs is installed.
  modules: ['@pinia/nuxt', 'vuetify-nuxt-module', ...hasLinter ? ['@nuxt/eslint'] : [], '@vite-pwa/nuxt'],
  $development: {
    vite: { environments: { ssr: { build: { rollupOptions: { input: { server: 'node_modules/nuxt/dist/app/entry.js' } } } } } },
  },
  ssr: false,
  // Addresses are in app/router.options.ts; a room holds its page, its cards and its composables.
  pages: true,
  components: ['~/stages', '~/shared', '~/shell'].map(path => ({ path, pathPrefix: false, pattern: '**/[A-Z]*.vue' })),
  imports: { dirs: ['~/stages/*/', '~/shared/', '~/shell/'].map(folder => `${folder}use*.ts`) },
  devtools: { enabled: false },
  app: {
    head: {
      title: 'Voltaris',
      htmlAttrs: { lang: 'en' },
      meta: [
        { name: 'description', content: 'Plans, checks, wires and brings up single-board computer projects.' },
        { name: 'theme-color', content: '#24343b' },
      ],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }, { rel: 'manifest', href: '/manifest.webmanifest' }],
    },
  },
  css: [
    '@fontsource-variable/atkinson-hyperlegible-next/index.css',
    '@fontsource-variable/atkinson-hyperlegible-mono/index.css',
    '~/assets/base.css',
    '~/assets/material.css',
  ],
  runtimeConfig: {
    /** Heavy requests: threads (0: one for each core but one), how many may wait, and seconds for one of them. */
    work: { threads: 0, waiting: 64, seconds: 20 },
    /** Origins of other hosts whose pages may ask the routes, by spaces or commas. */
    allowedOrigins: '',
    public: { demo: false },
  },
  srcDir: 'app/',
  serverDir: 'server/',
  routeRules: {
    '/**': { headers: HEADERS },
    '/_nuxt/**': { headers: { 'cache-control': 'public, max-age=31536000, immutable' } },
    '/sw.js': { headers: { 'cache-control': 'no-cache' } },
  },
  // Other stages are fetched when a pointer or the focus comes near their link, not before the first one is there.
  experimental: {
    entryImportMap: false,
    // A piece of an older version that is gone is told; the page is not loaded anew in the middle of work.
    emitRouteChunkError: 'manual',
    defaults: { nuxtLink: { prefetchOn: { interaction: true, visibility: false } } },
  },
  compatibilityDate: '2026-01-01',
  nitro: {
    compressPublicAssets: { gzip: true, brotli: false },
    esbuild: { options: { target: 'es2022' } },
    errorHandler: '~~/server/error.ts',
    hooks: {
      'dev:reload': () => void bundleThread('.nuxt'),
      'compiled': async nitro => void await bundleThread(join(nitro.options.output.serverDir)),
    },
  },
  vite: {
    worker: {
      format: 'es',
      // The simulated board's shell asks for it, and never uses it.
      plugins: () => [{ name: 'no-zlib', enforce: 'pre' as const, resolveId: (id: string) => id === 'node:zlib' ? noZlib : null }],
    },
    build: { chunkSizeWarningLimit: 1200, reportCompressedSize: false },
  },
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
  ...hasLinter && { eslint: { config: { stylistic: { braceStyle: 'stroustrup' } } } },
  pwa: {
    // A new version is told, and taken when the person says so.
    registerType: 'prompt',
    manifest: {
      name: 'Voltaris', short_name: 'Voltaris', description: 'Plans, checks, wires and brings up single-board computer projects.',
      lang: 'en', start_url: '/', display: 'standalone', background_color: '#faf8f3', theme_color: '#24343b',
      icons: [
        { src: '/mark-192.png', sizes: '192x192', type: 'image/png' }, { src: '/mark-512.png', sizes: '512x512', type: 'image/png' },
        { src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' },
        { src: '/mark-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
      ],
    },
    registerWebManifestInRouteRules: true,
    client: { registerPlugin: false },
    workbox: {
      globPatterns: ['**/*.{js,css,woff2,svg,png,webmanifest}'],
      maximumFileSizeToCacheInBytes: 8 * 1024 * 1024,
      navigateFallback: '/',
      navigateFallbackDenylist: [/^\/api(\/|$)/],
      additionalManifestEntries: [{ url: '/', revision: BUILD }, { url: '/settings.js', revision: BUILD }],
      clientsClaim: true,
      cleanupOutdatedCaches: true,
    },
  },
  vuetify: { vuetifyOptions: './vuetify.options.ts', moduleOptions: { disableVuetifyStyles: false } },
})
