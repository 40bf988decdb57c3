/** Supply figures in words. */
import type { ReportNode } from '../../power/report'
import type { PowerState } from '../../power/states'
import type { SupplyNode } from '../../netlist/supply/types'
import type { Figure, Subject } from '../types'

/** `1.24 A`, `310 mA`, `0.4 mA`. */
export function amps(ma: number): string {
  const size = Math.abs(ma)
  if (size >= 1000) return `${Number((ma / 1000).toFixed(2))} A`
  return `${Number(ma.toFixed(size < 10 ? 1 : 0))} mA`
}

/** `4.58 V`. */
export const volts = (voltageV: number): string => `${voltageV.toFixed(2)} V`

/** `7.6 W`, `40 mW`. */
export const watts = (powerW: number): string => Math.abs(powerW) >= 0.1
  ? `${Number(powerW.toFixed(Math.abs(powerW) < 10 ? 2 : 1))} W`
  : `${Number((powerW * 1000).toFixed(1))} mW`

export function hours(h: number): string {
  if (h >= 72) return `${Number((h / 24).toFixed(1))} days`
  return h >= 1 ? `${Number(h.toFixed(1))} h` : `${Math.round(h * 60)} min`
}

/** `8 min 20 s`. */
export function seconds(s: number): string {
  if (s < 60) return `${Number(s.toFixed(s < 10 ? 1 : 0))} s`
  const rest = Math.round(s % 60)
  return s < 3600 ? `${Math.floor(s / 60)} min${rest ? ` ${rest} s` : ''}` : hours(s / 3600)
}

/** `20 ms`, `0.3 s`, `8 min`. */
export const moment = (s: number): string => {
  if (s >= 1) return seconds(s)
  return s >= 0.1 ? `${Number(s.toFixed(2))} s` : `${Number((s * 1000).toPrecision(2))} ms`
}

export const ma = (value: number): number => Number(value.toFixed(Math.abs(value) < 10 ? 1 : 0)) + 0
export const v = (value: number): number => Number(value.toFixed(2)) + 0

/** A node as the subject of a finding. */
export function nodeSubject(node: Pick<SupplyNode, 'id' | 'partId'> | ReportNode): Subject {
  const position = /^@P(\d+)$/.exec(node.id)
  const terminal = node.partId && /^[^@#]+\.[^@#]+$/.test(node.id) ? { terminal: node.id } : {}
  return { node: node.id, ...node.partId && { partId: node.partId }, ...terminal,
    ...position && { position: Number(position[1]) } }
}

/** A figure of the tree as the limit of a finding. */
export function limitOf(node: SupplyNode, name: string): Pick<Figure, 'limit' | 'origin' | 'replaces'> {
  const figure = node.figures[name]
  return figure ? { limit: v(figure.value), origin: figure.origin, replaces: { node: node.id, figure: name } } : {}
}

/** With its owner where the name alone does not say. */
export function nodeName(node: SupplyNode, tree: { byId: ReadonlyMap<string, SupplyNode> }): string {
  if (node.id === '@cable') return 'the supply\'s lead'
  if (node.id.endsWith('@lead')) return `the lead of ${tree.byId.get(node.id.slice(0, -5))?.name ?? 'a supply'}`
  if (node.id.endsWith('@wire')) {
    return `the ${node.kind === 'connector' ? 'plug' : 'wires'} of `
      + `${tree.byId.get(node.id.slice(0, -5))?.name ?? 'a part'}`
  }
  return node.role === 'source' || node.own || node.partId
    ? node.name
    : `the ${node.name.charAt(0).toLowerCase()}${node.name.slice(1)}`
}

/** Through a node, whichever way. */
export const flow = (state: PowerState, node: SupplyNode) => Math.abs(state.nodes[node.id]!.currentMa)
/** Wires are many, a plug is one. */
export const verb = (node: SupplyNode, one: string,
  many: string) => node.kind === 'cable' && node.id.endsWith('@wire') ? many : one
export const sentenceCase = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
