/** The header as it is held, for taking along: as text and as a picture. */
import type { HeaderPosition } from '../catalogue/types'
import type { Facts } from '../facts/types'
import { escapeMarkup as escape } from '../documents/markup'

const lineName = ({ kind, line }: HeaderPosition) => {
  if (line !== undefined) return `G${line}`
  return kind === 'ground' ? 'GND' : kind
}

function holders(facts: Facts, position: number): string {
  return (facts.atPosition.get(position) ?? []).map(terminal => `${terminal.owner.name} ${terminal.label}`).join(', ')
}

/** Two columns as the header lies, position 1 at the top left: odd row left, even row right. */
export function railAsText(facts: Facts): string {
  const header = facts.board?.header ?? []
  const rows = header.filter(entry => entry.position % 2 === 1).map((odd) => {
    const even = header.find(entry => entry.position === odd.position + 1)
    return [
      holders(facts, odd.position), lineName(odd), String(odd.position), even ? String(even.position) : '',
      even ? lineName(even) : '',
      even ? holders(facts, even.position) : '',
    ] as const
  })
  const width = (column: number) => Math.max(0, ...rows.map(row => row[column]!.length))
  const [w0, w1, w2, w3, w4] = [0, 1, 2, 3, 4].map(width) as [number, number, number, number, number]
  return [`${facts.plan.name}: header seen from above, position 1 at the top left`, ...rows.map(([a, b, c, d, e, f]) =>
    `${a.padStart(w0)}  ${b.padStart(w1)}  ${c.padStart(w2)} | ${d.padEnd(w3)}  ${e.padEnd(w4)}  ${f}`.trimEnd())].join('\n') + '\n'
}

const CELL_WIDTH = 44
const CELL_HEIGHT = 46

/** A picture of the header lying, outer row above, each position in its owner's colour; names stand in a legend. */
export function railAsSvg(facts: Facts, colourOf: (partId: string) => string): string {
  const header = facts.board?.header ?? []
  const columns = Math.ceil(header.length / 2)
  const owners = facts.parts.filter(owner =>
    facts.terminals.some(terminal => terminal.owner === owner && terminal.place?.kind === 'header'))
  const width = columns * CELL_WIDTH + 20
  const top = 34
  const legendTop = top + 2 * CELL_HEIGHT + 26
  const cells = header.map((entry) => {
    const column = Math.ceil(entry.position / 2) - 1
    const x = 10 + column * CELL_WIDTH
    const y = top + (entry.position % 2 ? CELL_HEIGHT : 0)
    const held = facts.atPosition.get(entry.position) ?? []
    const fill = held[0] ? colourOf(held[0].owner.id) : '#ffffff'
    return `<g><title>${escape(`Position ${entry.position}, ${lineName(entry)}${held.length
      ? `: ${holders(facts, entry.position)}`
      : ': free'}`)}</title>`
      + `<rect x="${x}" y="${y}" width="${CELL_WIDTH - 4}" height="${CELL_HEIGHT - 4}" rx="${entry.position === 1 ? 0 : 4}" `
      + `fill="${fill}" fill-opacity="${held.length ? 0.25 : 1}" stroke="${held[0] ? fill : '#8a8578'}" `
      + `stroke-width="${entry.position === 1 ? 2.5 : 1}"/>`
      + `<text x="${x + CELL_WIDTH / 2 - 2}" y="${y + 18}" text-anchor="middle" font-size="15" font-weight="700">${entry.position}</text>`
      + `<text x="${x + CELL_WIDTH / 2 - 2}" y="${y + 33}" text-anchor="middle" font-size="11">${escape(lineName(entry))}</text></g>`
  })
  const legend = owners.map((owner, i) =>
    `<g><rect x="10" y="${legendTop + i * 20 - 10}" width="11" height="11" fill="${colourOf(owner.id)}"/><text x="28" `
    + `y="${legendTop + i * 20}" `
    + `font-size="12">${escape(`${owner.name}: ${facts.terminals.filter(terminal =>
      terminal.owner === owner && terminal.place?.kind === 'header')
      .map(terminal => `${terminal.label} ${terminal.place?.kind === 'header' ? terminal.place.position : ''}`)
      .join(', ')}`)}</text></g>`)
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${legendTop + owners.length * 20 + 10}" `
    + `font-family="system-ui, sans-serif" fill="#1d2326">`
    + `<text x="10" y="20" font-size="14" font-weight="700">${escape(facts.plan.name)}</text><text x="${width - 10}" y="20" `
    + `font-size="11" text-anchor="end">seen from above, outer row (even) on top</text>${cells.join('')}${legend.join('')}</svg>\n`
}
