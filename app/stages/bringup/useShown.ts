/** Points at what a test or a fault is about, where it is drawn: on the header. */
import type { Probe } from '~~/core/diagnosis/types'

export function useShown() {
  const view = useViewStore()
  const { go } = useStages()

  function goTo({ parts = [], positions = [] }: Probe['at']): void {
    view.mark([...parts.map(partId => ({ partId })), ...positions.map(position => ({ position }))])
    const [first] = parts
    if (first !== undefined) view.partId = first
    go('wiring')
  }
  return { goTo }
}
