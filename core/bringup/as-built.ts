/** The sheet of what stands there, for the next copy and the next change: what it is, how it is joined, what was measured and mended. */
import { asRows } from '../build/table'
import { wiresOf } from '../build/wires'
import type { Facts } from '../facts/types'
import { netlistOf } from '../netlist/build'
import { needsOf } from '../overlays/asks/needs'
import { writeNeed } from '../overlays/asks/write'
import { powerOf } from '../power/report'
import { hexAddress } from './grid'
import { expectedOf } from './expected'
import type { RunSheet } from './diagnosis/sheet'

/** `2026-04-18 15:40`, in universal time: the sheet is read elsewhere. */
const when = (iso: string) => iso.slice(0, 16).replace('T', ' ')

/** The sheet as Markdown. Law: every part, wire, sighting and entry of the logbook is in it once. */
export function asBuiltOf(facts: Facts, { rows, diagnosis }: RunSheet): string {
  const { plan, board, supply } = facts
  const power = powerOf(facts)
  const wires = wiresOf(facts, netlistOf(facts, power.tree))
  const { record } = plan.host
  const addresses = (id: string) => facts.devices.filter(({ owner, busId }) => owner.id === id && busId)
    .map(({ address, busId }) => `${hexAddress(address)} on ${busId}`).join(', ')
  const seen = rows.filter(row => row.seen)
  const typed = new Map(seen.flatMap(({ probe, seen: sighting }) => sighting!.value === undefined
    ? []
    : [[probe.id,
        sighting!.value] as const]))
  const predicted = expectedOf(facts, power).voltages.flatMap(({ node, volts, where }) => {
    const measured = node === '@5V' ? typed.get('volt:5V') : undefined
    return measured === undefined ? [] : [`${where}: ${volts.toFixed(2)} V predicted, ${measured} V measured.`]
  })
  const section = (title: string, body: string | readonly string[]) => body.length
    ? [`## ${title}`, '', ...typeof body === 'string' ? [body] : body, '']
    : []
  const table = (fields: string[], data: (string | number)[][]) => data.length ? asRows(fields, data) : ''
  return [
    `# ${plan.name}, as built`, '', ...plan.story ? [plan.story, ''] : [],
    `Board: ${board?.name ?? 'none chosen'}. Supply: ${supply?.name ?? 'none chosen'}.`, '',
    ...section('What runs on it', [
      ...record.image ? [`- Image: ${record.image}${record.imageDate ? ` of ${record.imageDate}` : ''}`] : [],
      ...record.kernel ? [`- Kernel: ${record.kernel}`] : [], ...record.address ? [`- Address: ${record.address}`] : [],
      ...record.passwordAt ? [`- The password is written down: ${record.passwordAt}`] : [],
    ]),
    ...section('Parts', table(['Part', 'What it is', 'Set to', 'Address'], facts.parts.map(({ id, name, part, options }) => [
      name, part.name, Object.entries(options).map(([option, value]) =>
        `${part.options?.find(entry => entry.id === option)?.label ?? option}: ${value}`).join(', '), addresses(id),
    ]))),
    ...section('Wires', table(['Step', 'Part', 'From', 'To', 'Colour', 'Length (m)'], wires.map((wire, i) => [
      i + 1, wire.partName, wire.from, wire.to, wire.colour, wire.lengthM || '',
    ]))),
    ...section('Lines of the boot file', needsOf(facts).map(({ need, why }) => `- \`${writeNeed(need)}\` for ${why}`)),
    ...section('What was seen', table(['Test', 'Planned', 'Seen', 'When'], seen.map(({ probe, planned, seen: sighting }) => [
      probe.title, planned, sighting!.value === undefined ? sighting!.outcome : `${sighting!.value} ${probe.reading?.unit ?? ''}`,
      when(sighting!.at),
    ]))),
    ...section('Predicted and measured', predicted.map(line => `- ${line}`)),
    ...section('Odd when it was last looked at', diagnosis.odd.map(({ probe, outcome }) =>
      `- ${rows.find(row => row.probe.id === probe)?.probe.title ?? probe}: ${outcome}`)),
    ...section('Logbook', [...plan.log].sort((a, b) => a.at.localeCompare(b.at)).map(entry =>
      `- ${when(entry.at)}: ${entry.text.replace(/\s*\n\s*/g, ' ')}`)),
    ...section('Notes', plan.notes ?? ''),
  ].join('\n')
}
