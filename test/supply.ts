/**
 * A second opinion on a plan's supply, from the catalogue files alone: the ladder method for radial networks. Currents
 * are summed from the loads back to the source with the voltages of the last round, then voltages are carried forward
 * from the source to the loads, until nothing moves. It shares no code with the solver and knows only plans whose tree
 * has one feed for each node.
 */
import type { Plan } from '../core/plan/types'
import { copperOhm } from './circuits'
import { catalogue } from './plans'

interface Branch {
  id: string
  parent: string | null
  /** Series resistance towards the parent. */
  ohm: number
  dropV: number
  /** Set voltage, headroom and efficiency of a converter in place of the resistance. */
  converter?: {
    setV: number
    headroomV: number
    ohm: number
    quiescentMa: number
    linear: boolean
    efficiency: (ma: number) => number
  }
  load?: { ma: number, ratedV: number, constantPower: boolean }
}

const figureOf = (plan: Plan, node: string, name: string, otherwise: number) =>
  plan.power.figures[node]?.[name] ?? plan.power.nodes.find(entry => entry.id === node)?.figures?.[name] ?? otherwise

/** Branches of a plan with a supply and a board, in the order from the source. Null for plans that are not radial. */
function branchesOf(plan: Plan, state: 'idle' | 'typical' | 'peak'): { emfV: number, branches: Branch[] } | null {
  const unit = plan.supply && catalogue.supplies.get(plan.supply.type)
  const board = plan.board && catalogue.boards.get(plan.board)
  if (!unit || !board || plan.power.joins.length || unit.limitsCurrent || unit.kind === 'transformer') return null
  const branches: Branch[] = [{ id: '@supply', parent: null, ohm: unit.ohm ?? 0.05, dropV: 0 }]
  const put = (branch: Branch) => branches.push(branch)
  const lead = unit.cable
  if (lead) {
    put({
      id: '@cable', parent: '@supply',
      ohm: copperOhm(figureOf(plan, '@cable', 'awg', lead.awg), figureOf(plan, '@cable', 'lengthM', lead.lengthM))
        + figureOf(plan, '@cable', 'contactOhm', lead.contactOhm),
      dropV: 0,
    })
  }
  const feedOf = (consumer: string, usual: string) => consumer in plan.power.feeds ? plan.power.feeds[consumer] : usual
  const own = new Map(plan.power.nodes.map(node => [node.id, node]))
  const place = (id: string): boolean => {
    if (branches.some(branch => branch.id === id)) return true
    const node = own.get(id)
    const item = node && catalogue.powerItems.get(node.type)
    if (!node?.from || !item || !place(node.from)) return false
    const value = (name: string) => figureOf(plan, id, name, item.figures[name] ?? 0)
    switch (item.kind) {
      case 'cable':
        put({ id, parent: node.from, ohm: copperOhm(value('awg'), value('lengthM')) + value('contactOhm'), dropV: 0 })
        break
      case 'diode':
      case 'ideal-diode':
        put({ id, parent: node.from, ohm: value('ohm'), dropV: value('dropV') })
        break
      case 'fuse':
      case 'fuse-resettable':
      case 'switch':
      case 'connector':
        put({ id, parent: node.from, ohm: value('ohm'), dropV: 0 })
        break
      case 'linear':
      case 'step-down':
        put({
          id, parent: node.from, ohm: 0, dropV: 0,
          converter: {
            setV: value('setV'), headroomV: value('headroomV'), ohm: value('ohm'), quiescentMa: value('quiescentMa'),
            linear: item.kind === 'linear', efficiency: ma => between(item.efficiency ?? [], ma),
          },
        })
        break
      default:
        return false
    }
    return true
  }
  for (const node of plan.power.nodes) if (!place(node.id)) return null
  const socket = feedOf('@socket', lead ? '@cable' : '@supply')
  if (!socket || !place(socket)) return null
  const power = board.power!
  put({
    id: '@socket', parent: socket, ohm: power.socketOhm, dropV: 0,
    load: { ma: board.draw[`${state}Ma`], ratedV: 5, constantPower: true },
  })
  put({
    id: '@3V3', parent: '@socket', ohm: 0, dropV: 0,
    converter: {
      setV: 3.3, headroomV: power.rail3V3HeadroomV, ohm: 0.02, quiescentMa: 0, linear: power.rail3V3 === 'linear',
      efficiency: () => power.rail3V3Efficiency,
    },
  })
  put({ id: '@usb', parent: '@socket', ohm: power.usbOhm, dropV: 0 })
  for (const part of plan.parts) {
    const file = catalogue.parts.get(part.type)!
    if (file.options?.length || file.seat) return null
    for (const supply of file.supplies) {
      // Terminals that only a supply of the maker's feeds draw nothing until one does.
      if (supply.from === 'own' && !plan.power.feeds[`${part.id}.${supply.id}`]) continue
      const id = `${part.id}.${supply.id}`
      const position = plan.assignments[id]?.position
      const kind = board.header.find(entry => entry.position === position)?.kind
      const rail = supply.from === 'usb' ? '@usb' : supply.rail === '3V3' ? '@3V3' : '@socket'
      let parent = feedOf(id, rail)
      if (!parent) return null
      if (parent === rail && supply.from === 'header' && (kind === '5V' || kind === '3V3')) {
        const contact = `@P${position}`
        if (!branches.some(branch => branch.id === contact)) {
          put({ id: contact, parent: kind === '3V3' ? '@3V3' : '@socket', ohm: power.positionOhm, dropV: 0 })
        }
        parent = contact
      }
      if (!branches.some(branch => branch.id === parent)) return null
      const plug = file.plugs?.some(entry => entry.wide)
      const ohm = plug
        ? 0.03
        : copperOhm(
          figureOf(plan, `${id}@wire`, 'awg', supply.from === 'usb' ? 24 : 26),
          figureOf(plan, `${id}@wire`, 'lengthM', file.leadM ?? 0.2),
        ) + 0.03
      put({
        id, parent, ohm, dropV: 0,
        load: { ma: supply[`${state}Ma`], ratedV: supply.rail === '3V3' ? 3.3 : 5,
          constantPower: supply.law === 'power' },
      })
    }
  }
  return { emfV: unit.voltageV, branches }
}

function between(points: { currentMa: number, efficiency: number }[], ma: number): number {
  const sorted = [...points].sort((a, b) => a.currentMa - b.currentMa)
  const above = sorted.find(point => point.currentMa >= ma)
  const below = [...sorted].reverse().find(point => point.currentMa < ma)
  if (!above) return sorted.at(-1)!.efficiency
  if (!below) return above.efficiency
  return below.efficiency
    + (above.efficiency - below.efficiency) * (ma - below.currentMa) / (above.currentMa - below.currentMa)
}

export interface Second { voltages: Record<string, number>, currents: Record<string, number> }

/**
 * Voltages behind each branch and currents through it; null where the plan is not radial or the ladder does not settle.
 */
export function secondOpinion(plan: Plan, state: 'idle' | 'typical' | 'peak'): Second | null {
  const made = branchesOf(plan, state)
  if (!made) return null
  const { emfV, branches } = made
  const voltages: Record<string, number> = Object.fromEntries(branches.map(branch =>
    [branch.id, branch.converter?.setV ?? emfV]))
  const currents: Record<string, number> = {}
  for (let round = 0; round < 2000; round++) {
    // Back from the loads: what each branch has to carry at its output.
    for (const branch of [...branches].reverse()) {
      const { load } = branch
      let ma = load ? load.constantPower ? load.ma * load.ratedV / voltages[branch.id]! : load.ma : 0
      for (const child of branches.filter(other => other.parent === branch.id)) {
        ma += inputOf(child, currents[child.id]!, voltages[branch.id]!)
      }
      currents[branch.id] = ma
    }
    // Forward from the source.
    let moved = 0
    for (const branch of branches) {
      const from = branch.parent === null ? emfV : voltages[branch.parent]!
      const given = branch.converter
        ? Math.min(branch.converter.setV,
          from - branch.converter.headroomV) - branch.converter.ohm * currents[branch.id]! / 1000
        : from - (currents[branch.id]! > 0 ? branch.dropV : 0) - branch.ohm * currents[branch.id]! / 1000
      // Half a step each round: constant power swings otherwise.
      const next = voltages[branch.id]! + (given - voltages[branch.id]!) * 0.5
      if (!(next > 1)) return null
      moved = Math.max(moved, Math.abs(next - voltages[branch.id]!))
      voltages[branch.id] = next
    }
    if (moved < 1e-9) return { voltages, currents }
  }
  return null
}

/** What a branch takes from its parent for what it gives. */
function inputOf({ converter }: Branch, outMa: number, fromV: number): number {
  if (!converter) return outMa
  if (converter.linear) return outMa + converter.quiescentMa
  const goalV = Math.min(converter.setV, fromV - converter.headroomV)
  return goalV * outMa / (converter.efficiency(outMa) * fromV) + converter.quiescentMa
}
