/** A plan as an address: compressed, and in the fragment, which browsers do not send to any server. */
import { deflateSync, Inflate } from 'fflate'
import { readPlanText, type ReadResult } from '../plan/read'
import { writePlanText } from '../plan/text-of'
import type { Plan } from '../plan/types'

/** Longer addresses are cut off by some programs on their way. */
export const SAFE_LETTERS = 8000
/** A plan is never larger, unpacked. */
const MAX_BYTES = 8 * 1024 * 1024

/** What stands behind `#` for a plan. Earlier boot files are left out: they are not what is shared. */
export function fragmentOf(plan: Plan): string {
  const { before: _, ...boot } = plan.boot ?? { text: '' }
  const shared: Plan = plan.boot ? { ...plan, boot } : plan
  const packed = deflateSync(new TextEncoder().encode(JSON.stringify(JSON.parse(writePlanText(shared)))), { level: 9 })
  let letters = ''
  for (const byte of packed) letters += String.fromCharCode(byte)
  return btoa(letters).replaceAll('+', '-').replaceAll('/', '_').replace(/=+$/, '')
}

/**
 * The plan behind an address, or what is wrong with it. What unpacks to more than a plan can be is refused on the way.
 */
export function planOfFragment(fragment: string): ReadResult {
  const refuse = (message: string): ReadResult => ({ ok: false, problems: [{ path: '', message }] })
  const letters = fragment.replace(/^#/, '')
  if (!/^[\w-]+$/.test(letters)) return refuse('the address carries no plan: it was cut off, or changed on its way')
  let packed: Uint8Array
  try {
    packed = Uint8Array.from(atob(letters.replaceAll('-', '+').replaceAll('_', '/')), letter => letter.charCodeAt(0))
  }
  catch {
    return refuse('the address was cut off or changed on its way: its letters cannot be read')
  }
  const pieces: Uint8Array[] = []
  let size = 0
  let isWhole = false
  const inflate = new Inflate((piece, final) => {
    size += piece.length
    if (size > MAX_BYTES) throw new RangeError('too large')
    pieces.push(piece)
    isWhole = final
  })
  try {
    const STEP = 4096
    for (let at = 0; at < packed.length; at += STEP) inflate.push(packed.subarray(at, at + STEP),
      at + STEP >= packed.length)
  }
  catch (error) {
    return refuse(error instanceof RangeError
      ? 'what the address carries is larger than a plan can be'
      : 'the address was cut off or changed on its way: it cannot be unpacked')
  }
  if (!isWhole) return refuse('the address was cut off on its way')
  const bytes = new Uint8Array(size)
  let at = 0
  for (const piece of pieces) {
    bytes.set(piece, at)
    at += piece.length
  }
  return readPlanText(new TextDecoder().decode(bytes))
}
