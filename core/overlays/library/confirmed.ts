/**
 * What the kernel's bindings confirm of the library, which is from memory: that a node's `compatible` is one that
 * drivers are bound by. Published: Linux, Documentation/devicetree/bindings, of the version that the table names;
 * `scripts/kernel-bindings.mjs` writes it.
 */
import data from './confirmed.json'
import type { OverlaySpec } from './types'

const { kernel, bindings } = data as { kernel: string, bindings: Record<string, string> }

/** Kernel version whose bindings were looked through. */
export const CONFIRMED_BY = `Linux ${kernel}`

/** Names that the overlay's nodes are known by and that stand in a binding, each with its file. */
export function confirmedOf(spec: OverlaySpec): { compatible: string, file: string }[] {
  const names = [
    ...[...spec.tree.matchAll(/compatible\s*=\s*([^;]+);/g)].flatMap(
      ([, list]) => [...list!.matchAll(/"([^"{}]+)"/g)].map(match => match[1]!),
    ),
    ...Object.values(spec.choices ?? {}).map(choice => choice.compatible),
  ]
  return [...new Set(names)].flatMap(compatible =>
    Object.hasOwn(bindings, compatible) ? { compatible, file: bindings[compatible]! } : [])
}
