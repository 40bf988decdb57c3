/**
 * Works without a net: the service worker keeps every file of this version, and a newer version waits until the person takes it. What
 * cannot be loaded any more is told; the page is never loaded anew in the middle of work.
 */
const EVERY_MS = 60 * 60_000

export default defineNuxtPlugin((nuxt) => {
  const view = useViewStore()

  nuxt.hook('app:chunkError', () => view.say(
    'A part of Voltaris could not be loaded: the server does not answer, or has a newer version. What you did is kept.',
    { tone: 'stop', action: { label: 'Load the page again', run: () => location.reload() } },
  ))

  // Browsers keep this interface to pages that came over a secure connection or from this machine.
  if (import.meta.dev || !('serviceWorker' in navigator)) return
  const register = () => void watchVersions(view).catch((error: Error) => {
    console.error('Voltaris will not work without a net in this browser:', error)
  })
  // After the first stage: what is fetched for later must not hold it up.
  if (document.readyState === 'complete') register()
  else addEventListener('load', register, { once: true })
})

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
