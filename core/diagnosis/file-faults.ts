/** Faults of what is written and set: lines of the boot file, the console, rate and frame. */
import type { BootNeed } from '../catalogue/types'
import type { Facts } from '../facts/types'
import { writeNeed } from '../overlays/asks/write'
import type { AsPlanned, Fault } from './types'
import { WEIGHTS } from './weights'

/** A line of the boot file that is not there, is filtered away, or stands in a copy that nobody reads. */
export function lineFaults({ needs, facts }: AsPlanned): Fault[] {
  if (!needs.length) return []
  const own = needs.flatMap(({ need, partIds }): Fault[] => {
    const line = writeNeed(need)
    return [
      {
        id: `line:${line}`, title: `The boot file lacks "${line}", or has it mistyped`, weight: WEIGHTS.missing,
        mend: 'Write the file anew from the Boot files stage, put it on the card, and start again: these lines are '
          + 'read at the start only.',
        at: { line, parts: partIds }, changes: [{ change: 'line', line, how: 'missing' }],
      },
      ...(facts.board?.bootDialect ?? 'key-value') === 'key-value'
        ? [{
            id: `hidden:${line}`, title: `"${line}" stands below a filter of another board`, weight: WEIGHTS.hidden,
            mend: 'Put a line [all] above it, or move it up, and start again.',
            at: { line, parts: partIds }, changes: [{ change: 'line' as const, line, how: 'hidden' as const }],
          }, ...figureFault(need, line, partIds, facts)]
        : [],
    ]
  })
  return [...own, {
    id: 'line:copy', title: 'The boot file that was edited is not the one that is read', weight: WEIGHTS.copy,
    mend: 'Newer images read the one under /boot/firmware/, older ones that under /boot/. Look which is there, edit '
      + 'that one, start again.',
    at: { parts: [...new Set(needs.flatMap(({ partIds }) => partIds))] },
    changes: needs.map(({ need }) => ({ change: 'line', line: writeNeed(need), how: 'wrong-copy' })),
  }]
}

/** A line of the board that nobody of the plan has; undefined where all are taken. */
function freeLine({ board, terminals }: Facts): number | undefined {
  const used = new Set(terminals.flatMap(({ place }) => place?.kind === 'header' ? place.line?.line ?? [] : []))
  // Lines of the first bus and port are not what one slips to.
  return board!.header.flatMap(({ line }) => line ?? [])
    .find(line => line > 3 && line !== 14 && line !== 15 && !used.has(line))
}

/** The line stands there with one figure wrong: another line of the board, another address. */
function figureFault(need: BootNeed, line: string, partIds: string[], facts: Facts): Fault[] {
  if (need.kind !== 'overlay') return []
  const [name, value] = Object.entries(need.params ?? {}).find(([param, figure]) =>
    (/^\d+$/.test(figure) && /pin|gpio|^(int|interrupt)/.test(param)) || /^0x[0-9a-f]{2}$/i.test(figure)) ?? []
  if (name === undefined || value === undefined) return []
  const other = value.startsWith('0x') ? `0x${(Number(value) ^ 1).toString(16)}` : freeLine(facts)?.toString()
  if (other === undefined) return []
  const as = writeNeed({ ...need, params: { ...need.params, [name]: other } })
  return [{
    id: `figure:${line}`, title: `The boot file has ${name}=${other}, not ${value}: "${as}"`, weight: WEIGHTS.figure,
    mend: `Put ${name}=${value} there, and start again: these lines are read at the start only.`,
    at: { line, parts: partIds }, changes: [{ change: 'line', line, how: 'other-figure', as }],
  }]
}

export function serialFaults({ facts }: AsPlanned): Fault[] {
  const groups = facts.groups.filter(group => group.kind === 'serial' && group.bus?.controller)
  const buses = [...new Map(groups.map(group => [group.bus!.id, group])).values()]
  return [
    ...buses.map(({ bus, owner }): Fault => ({
      id: `console:${bus!.id}`, title: `The console still writes on ${bus!.label}`, weight: WEIGHTS.console,
      at: { parts: [owner.id] },
      mend: 'Take "console=serial0,…" (or the port\'s own name) out of the command line file, switch its login '
        + 'off, and start again.',
      changes: [{ change: 'flag', flag: 'console', partId: owner.id }],
    })),
    ...groups.map(({ owner }): Fault => ({
      id: `rate:${owner.id}`, title: `${owner.name} and the program talk at different rates or frames`,
      weight: WEIGHTS.rate,
      at: { parts: [owner.id] },
      mend: 'Set both ends to one rate, eight bits, no parity, one stop bit; at half the rate each byte comes as two.',
      changes: [{ change: 'flag', flag: 'rate', partId: owner.id }],
    })),
  ]
}
