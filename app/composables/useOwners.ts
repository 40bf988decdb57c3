/** Owner colours: each part has one, and everything it holds wears it. */
export function useOwners() {
  const project = useProjectStore()
  const indexOf = computed(() => new Map(project.plan?.parts.map((part, i) => [part.id, i])))
  const colourOf = (partId: string | null | undefined) => {
    const index = partId ? indexOf.value.get(partId) : undefined
    return index === undefined ? 'var(--ink-2)' : `var(--owner-${index % 12})`
  }
  const nameOf = (partId: string) => project.plan?.parts.find(part => part.id === partId)?.name || partId
  return { colourOf, nameOf }
}
