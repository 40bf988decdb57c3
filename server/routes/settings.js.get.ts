/** What the page has to know before it starts. A file of its own: the page runs no script that stands in it. */
export default defineEventHandler((event) => {
  const { app, public: shown } = useRuntimeConfig(event)
  setResponseHeaders(event, { 'content-type': 'text/javascript; charset=utf-8', 'cache-control': 'no-cache' })
  return `window.__NUXT__={config:${JSON.stringify({ public: shown, app })}}\n`
})
