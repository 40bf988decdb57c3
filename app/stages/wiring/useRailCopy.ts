import { railAsSvg, railAsText } from '~~/core/construction/rail'

/** The header to the clipboard; where the browser gives none, as a file. */
export function useRailCopy() {
  const project = useProjectStore()
  const copy = useCopy()
  const give = (content: string, ending: string, type: string, what: string) =>
    copy(content, what, () => download(fileName(project.plan!.name, ending), content, type))

  /** Colours as they are on the screen now, for a picture that stands by itself. */
  function colour(partId: string): string {
    const index = project.plan!.parts.findIndex(part => part.id === partId)
    return getComputedStyle(document.documentElement).getPropertyValue(`--owner-${index % 12}`).trim()
  }

  return {
    copyText: () => give(railAsText(project.facts!), '-header.txt', 'text/plain', 'The header as text'),
    copyPicture: () =>
      give(railAsSvg(project.facts!, colour), '-header.svg', 'image/svg+xml', 'The header as a picture'),
  }
}
