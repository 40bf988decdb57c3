const HUES = 12

/**
 * Twelve hues, then the same with more ink in them, then each mixed with one far from it: no two of the first
 * 36 are alike.
 */
export function ownerColour(index: number): string {
  const hue = `var(--owner-${index % HUES})`
  const round = Math.floor(index / HUES) % 3
  if (round === 0) return hue
  return round === 1
    ? `color-mix(in srgb, ${hue} 58%, var(--ink))`
    : `color-mix(in srgb, ${hue} 50%, var(--owner-${(index + 5) % HUES}))`
}

/** Letters in the order of the plan. */
export const tagOfIndex = (index: number): string =>
  index < 26 ? String.fromCharCode(65 + index) : tagOfIndex(Math.floor(index / 26) - 1) + tagOfIndex(index % 26)

/** Owner colours: each part has one, and everything it holds wears it. */
export function useOwners() {
  const project = useProjectStore()
  const indexOf = computed(() => new Map(project.plan?.parts.map((part, i) => [part.id, i])))
  const colourOf = (partId: string | null | undefined) => {
    const index = partId ? indexOf.value.get(partId) : undefined
    return index === undefined ? 'var(--ink-2)' : ownerColour(index)
  }
  /** `A`, `B` … `Z`, `AA` …: the second distinction beside the colour. */
  const tagOf = (partId: string | null | undefined) => {
    const index = partId ? indexOf.value.get(partId) : undefined
    return index === undefined ? '' : tagOfIndex(index)
  }
  const nameOf = (partId: string) => project.plan?.parts.find(part => part.id === partId)?.name || partId
  return { colourOf, tagOf, nameOf }
}
