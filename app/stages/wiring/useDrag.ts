import { whyNot } from '~~/core/placement/options'

const dragged = ref<string | null>(null)
const over = ref<number | null>(null)
const TYPE = 'application/x-voltaris-terminal'

/** Dragging a terminal to a header position: while it is over one that cannot serve it, the reason is said. */
export function useDrag() {
  const project = useProjectStore()
  const view = useViewStore()
  const { options, byPosition, moving, moveTo } = useMove()
  const terminal = computed(() => dragged.value ? project.facts?.byKey.get(dragged.value) ?? null : null)
  const reason = computed(() => {
    if (!terminal.value || over.value === null) return null
    const why = whyNot(terminal.value, over.value, project.facts!)
    const taken = byPosition.value.get(over.value)?.takenBy ?? []
    return why ?? (taken.length ? `Position ${over.value} is held by ${taken.join(', ')}: both would want it.` : null)
  })
  const possible = computed(() => over.value !== null && !!terminal.value && whyNot(terminal.value, over.value, project.facts!) === null)

  function start(key: string, event: DragEvent): void {
    dragged.value = key
    moving.value = key
    event.dataTransfer?.setData(TYPE, key)
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'move'
  }

  function hover(position: number, event: DragEvent): void {
    if (!dragged.value) return
    over.value = position
    event.preventDefault()
    if (event.dataTransfer) event.dataTransfer.dropEffect = possible.value ? 'move' : 'none'
  }

  function drop(position: number, event: DragEvent): void {
    event.preventDefault()
    const option = options.value.find(entry => entry.to.position === position)
    const why = terminal.value && whyNot(terminal.value, position, project.facts!)
    if (dragged.value && option) moveTo(dragged.value, option)
    else if (why) view.say(why, { tone: 'stop' })
    end()
  }

  function end(): void {
    dragged.value = null
    over.value = null
    moving.value = null
  }

  return { dragged, over, terminal, reason, possible, start, hover, drop, end }
}
