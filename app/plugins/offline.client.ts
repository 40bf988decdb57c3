/**
 * Works without a net: the service worker keeps every file of this version, and a newer version waits until the person
 * takes it. What cannot be loaded any more is told; the page is never loaded anew in the middle of work.
 */
const EVERY_MS = 60 * 60_000
/** Nobody has done anything yet that could go wrong: the first stage comes first. */
const BARS_AFTER_MS = 1500
/** What browsers say of a program file that does not come. */
const NOT_LOADED = /dynamically imported module|Importing a module script failed|Unable to preload/i

export default defineNuxtPlugin((nuxt) => {
  const view = useViewStore()

  const tell = (error: unknown) => {
    if (!NOT_LOADED.test(String((error as Error | undefined)?.message))) return
    view.say(
      'A part of Voltaris could not be loaded: the server does not answer, or has a newer version. What you '
      + 'did is kept.',
      { tone: 'stop', action: { label: 'Load the page again', run: () => location.reload() } },
    )
  }
  useRouter().onError(tell)
  nuxt.hook('vue:error', tell)
  addEventListener('unhandledrejection', event => tell(event.reason))

  // What tells of trouble has to be there when nothing can be loaded any more.
  afterLoad(() => setTimeout(() => {
    for (const bar of [import('~/shell/NoticeBar.vue'), import('~/shell/SaveBar.vue')]) bar.catch(tell)
  }, BARS_AFTER_MS))
  // Browsers keep this interface to pages that came over a secure connection or from this machine.
  if (import.meta.dev || !('serviceWorker' in navigator)) return
  afterLoad(() => void watchVersions(view).catch((error: Error) => {
    console.error('Voltaris will not work without a net in this browser:', error)
  }))
})

/** After the first stage: what is fetched for later must not hold it up. */
function afterLoad(work: () => void): void {
  if (document.readyState === 'complete') setTimeout(work)
  else addEventListener('load', work, { once: true })
}

async function watchVersions(view: ReturnType<typeof useViewStore>): Promise<void> {
  const { serviceWorker } = navigator
  let isOurs = false
  const hadOne = serviceWorker.controller !== null
  serviceWorker.addEventListener('controllerchange', () => {
    if (isOurs) return location.reload()
    // Another tab took the newer version: this one goes on with what it has until it suits.
    if (hadOne) view.update = { taken: true, take: () => location.reload() }
  })
  const registration = await serviceWorker.register('/sw.js', { updateViaCache: 'none' })
  const tell = () => {
    if (!registration.waiting || !serviceWorker.controller) return
    view.update = {
      taken: false,
      take: () => {
        isOurs = true
        registration.waiting?.postMessage({ type: 'SKIP_WAITING' })
      },
    }
  }
  tell()
  registration.addEventListener('updatefound', () => {
    registration.installing?.addEventListener('statechange', tell)
  })
  // No answer is no news: the server may be off.
  const look = () => void registration.update().catch(() => null)
  setInterval(look, EVERY_MS)
  document.addEventListener('visibilitychange', () => document.visibilityState === 'visible' && look())
}
