/** Keyboard shortcuts: one table that both the listener and the list under `?` read. */
import { onKeyStroke } from '@vueuse/core'
import { USUAL_WORKSHEETS } from '~~/core/vocabulary/worksheets'
import { STAGES } from './useStages'

type Actions = ReturnType<typeof actions>

/** Every shortcut of a project's screens: the keys, what they do, and the action behind them. */
export const SHORTCUTS: readonly { keys: string, does: string, act: keyof Actions }[] = [
  { keys: 'z', does: 'Undo', act: 'undo' },
  { keys: 'Z', does: 'Redo', act: 'redo' },
  { keys: 'p', does: 'Place the rest', act: 'place' },
  { keys: 'f', does: 'Find a part, position, line or function', act: 'find' },
  { keys: 'w', does: 'Worksheets', act: 'worksheets' },
  { keys: 'o', does: 'Turn the header over (seen from below)', act: 'turnOver' },
  { keys: 'r', does: 'Turn the header around', act: 'turnAround' },
  { keys: 'n', does: 'Large numbers: positions or lines', act: 'numbers' },
  { keys: 'd', does: 'Open or close the findings', act: 'findings' },
  { keys: 'l', does: 'Open or close the logbook', act: 'logbook' },
  { keys: 'h', does: 'Help on this stage', act: 'help' },
  { keys: 't', does: 'Light or dark', act: 'theme' },
  { keys: '?', does: 'This list', act: 'list' },
  { keys: 'Escape', does: 'Let go of what is chosen', act: 'letGo' },
]

function actions() {
  const project = useProjectStore()
  const view = useViewStore()
  return {
    undo: project.undo,
    redo: project.redo,
    // Placement comes with its first use.
    place: async () => (await import('~/stages/wiring/usePlacement')).usePlacement().place('rest'),
    find: () => document.querySelector<HTMLInputElement>('#finder')?.focus(),
    worksheets: () => view.worksheet = view.worksheet ? null : USUAL_WORKSHEETS['pull-up'],
    turnOver: () => view.fromBelow = !view.fromBelow,
    turnAround: () => view.turned = !view.turned,
    numbers: () => view.large = view.large === 'position' ? 'line' : 'position',
    findings: () => view.toggleDrawer('findings'),
    logbook: () => view.toggleDrawer('logbook'),
    help: () => view.toggleDrawer('help'),
    theme: view.turnTheme,
    list: () => view.keysOpen = !view.keysOpen,
    letGo: () => view.choosePart(null),
  }
}

const isTyping = (event: KeyboardEvent) => {
  const target = event.target as HTMLElement | null
  // A box that is ticked takes no letters.
  if (target instanceof HTMLInputElement && ['checkbox', 'radio'].includes(target.type)) return false
  return !!target && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
}

/**
 * Listens for the shortcuts while the calling component is mounted. Focus mode and open dialogs keep their
 * keys to themselves.
 */
export function useShortcuts() {
  const run = actions()
  const { go } = useStages()
  onKeyStroke((event) => {
    if (isTyping(event)) return
    if (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault()
      return event.shiftKey ? run.redo() : run.undo()
    }
    if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector('[data-takes-keys]')) return
    if (document.querySelector('.v-overlay--active .v-card') && event.key !== '?') return
    const stage = STAGES.find(entry => String(entry.number) === event.key)
    const shortcut = SHORTCUTS.find(entry => entry.keys === event.key)
    if (!stage && !shortcut) return
    event.preventDefault()
    if (stage) void go(stage.id)
    else void run[shortcut!.act]()
  })
}
