/** Hints, menus and dialogs hang beside the page: the place where they hang has a name, like every other part of it. */
export default defineNuxtPlugin(() => {
  const container = document.createElement('div')
  container.className = 'v-overlay-container'
  container.setAttribute('role', 'region')
  container.setAttribute('aria-label', 'Hints and dialogs')
  document.body.append(container)
})
