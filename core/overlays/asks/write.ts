/** How a need is written in a boot file, and what the files made for it are called. */
import type { BootNeed } from '../../catalogue/types'

/** Name in the boot file of the overlay that Voltaris makes for a part. */
export const overlayFileName = (partId: string) => `voltaris-${partId.toLowerCase()}`

export function sameNeed(a: BootNeed, b: BootNeed): boolean {
  return writeNeed(a) === writeNeed(b)
}

/** The line of a boot file that meets the need. */
export function writeNeed(need: BootNeed): string {
  if (need.kind === 'setting') return `${need.name}=${need.value}`
  if (need.kind === 'param') return `dtparam=${need.name}=${need.value}`
  const params = Object.entries(need.params ?? {})
    .map(([name, value]) => value === '' ? `,${name}` : `,${name}=${value}`)
  return `dtoverlay=${need.name}${params.join('')}`
}
