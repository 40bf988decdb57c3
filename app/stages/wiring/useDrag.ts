import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import type { Directive } from 'vue'
import { placeOptions, whyNot } from '~~/core/placement/options'

const dragged = ref<string | null>(null)
const over = ref<number | null>(null)

/** Dragging a terminal to a header position: while it is over one that cannot serve it, the reason is said. */
export function useDrag() {
  const project = useProjectStore()
  const view = useViewStore()
  const { byPosition, moving, moveTo } = useMove()
  const terminal = computed(() => dragged.value ? project.facts?.byKey.get(dragged.value) ?? null : null)
  const reason = computed(() => {
    if (!terminal.value || over.value === null) return null
    const why = whyNot(terminal.value, over.value, project.facts!)
    const taken = byPosition.value.get(over.value)?.takenBy ?? []
    return why ?? (taken.length ? `Position ${over.value} is held by ${taken.join(', ')}: both would want it.` : null)
  })
  const possible = computed(() =>
    over.value !== null && !!terminal.value && whyNot(terminal.value, over.value, project.facts!) === null)

  function drop(key: string, position: number): void {
    const facts = project.facts
    const found = facts?.byKey.get(key)
    if (!facts || !found) return
    const option = placeOptions(found, facts).find(entry => entry.to.position === position)
    const why = whyNot(found, position, facts)
    if (option && !why) moveTo(key, option)
    else if (why) view.say(why, { tone: 'stop' })
  }

  function end(): void {
    dragged.value = null
    over.value = null
    moving.value = null
  }

  /** Makes an element one that a terminal is dragged by; `null` for one that cannot be. */
  const vDrags = live<string | null>((element, key) => draggable({
    element,
    canDrag: () => key() !== null,
    getInitialData: () => ({ terminal: key() }),
    onDragStart: () => moving.value = dragged.value = key(),
    onDrop: end,
  }))

  /** Makes an element a position that a terminal is dropped on. */
  const vTakes = live<number>((element, position) => dropTargetForElements({
    element,
    getData: () => ({ position: position() }),
    getDropEffect: () => 'move',
    onDragEnter: () => over.value = position(),
    onDragLeave: () => {
      if (over.value === position()) over.value = null
    },
    onDrop: ({ source }) => drop(String(source.data.terminal), position()),
  }))

  return { dragged, over, terminal, reason, possible, vDrags, vTakes }
}

/** A directive whose value may change while the element stays. */
function live<T>(attach: (element: HTMLElement, value: () => T) => () => void): Directive<HTMLElement, T> {
  const kept = new WeakMap<HTMLElement, { value: T, detach: () => void }>()
  return {
    mounted(element, { value }) {
      const entry = { value, detach: () => {} }
      kept.set(element, entry)
      entry.detach = attach(element, () => entry.value)
    },
    updated(element, { value }) {
      kept.get(element)!.value = value
    },
    unmounted: element => kept.get(element)?.detach(),
  }
}
