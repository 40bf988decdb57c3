/**
 * The sheet of what stands there, for the next copy and the next change: what it is, how it is joined, what was
 * measured and mended.
 */
import { asRows } from '../construction/table'
import { wiresOf } from '../construction/wires'
import type { Facts } from '../facts/types'
import { netlistOf } from '../netlist/build'
import { needsOf } from '../overlays/asks/needs'
import { writeNeed } from '../overlays/asks/write'
import { A4, head, PAPER_STYLES, plain, table as paperTable, type Content,
  type PaperDocument } from '../documents/paper'
import type { LogEntry } from '../plan/types'
import { powerOf, type Power } from '../power/report'
import { hexAddress } from '../bringup/grid'
import { judgeCurve } from '../curves/judge'
import { expectedOf } from '../bringup/expected'
import type { RunSheet } from '../diagnosis/sheet'

/** `2026-04-18 15:40`, in universal time: the sheet is read elsewhere. */
const when = (iso: string) => iso.slice(0, 16).replace('T', ' ')

/** A chapter of the sheet: lines, or a table. */
interface Chapter { title: string, lines: string[], heads?: string[], rows?: (string | number)[][] }

function chaptersOf(facts: Facts, { rows, diagnosis }: RunSheet): Chapter[] {
  const { plan } = facts
  const power = powerOf(facts)
  const wires = wiresOf(facts, netlistOf(facts, power.tree))
  const { record } = plan.host
  const addresses = (id: string) => facts.devices.filter(({ owner, busId }) => owner.id === id && busId)
    .map(({ address, busId }) => `${hexAddress(address)} on ${busId}`).join(', ')
  const seen = rows.filter(row => row.seen)
  const lines = (title: string, list: string[]): Chapter => ({ title, lines: list })
  const table = (title: string, heads: string[],
    data: (string | number)[][]): Chapter => ({ title, lines: [], heads, rows: data })
  return [
    lines('What runs on it', [
      ...record.image ? [`Image: ${record.image}${record.imageDate ? ` of ${record.imageDate}` : ''}`] : [],
      ...record.kernel ? [`Kernel: ${record.kernel}`] : [], ...record.address ? [`Address: ${record.address}`] : [],
      ...record.passwordAt ? [`The password is written down: ${record.passwordAt}`] : [],
    ]),
    table('Parts', ['Part', 'What it is', 'Set to', 'Address'], facts.parts.map(({ id, name, part, options }) => [
      name, part.name, Object.entries(options).map(([option, value]) =>
        `${part.options?.find(entry => entry.id === option)?.label ?? option}: ${value}`).join(', '), addresses(id),
    ])),
    table('Wires', ['Step', 'Part', 'From', 'To', 'Colour', 'Length (m)'], wires.map((wire, i) => [
      i + 1, wire.partName, wire.from, wire.to, wire.colour, wire.lengthM || '',
    ])),
    lines('Lines of the boot file', needsOf(facts).map(({ need, why }) => `\`${writeNeed(need)}\` for ${why}`)),
    table('What was seen', ['Test', 'Planned', 'Seen', 'When'], seen.map(({ probe, planned, seen: sighting }) => [
      probe.title, planned,
      sighting!.value === undefined ? sighting!.outcome : `${sighting!.value} ${probe.reading?.unit ?? ''}`,
      when(sighting!.at),
    ])),
    lines('Predicted and measured', [...voltsMeasured(facts, power, rows), ...curvesMeasured(facts)]),
    lines('Odd when it was last looked at', diagnosis.odd.map(({ probe, outcome }) =>
      `${rows.find(row => row.probe.id === probe)?.probe.title ?? probe}: ${outcome}`)),
    lines('Logbook', [...plan.log].sort((a, b) => a.at.localeCompare(b.at)).map(entry =>
      `${when(entry.at)}: ${entry.text.replace(/\s*\n\s*/g, ' ')}${photosInWords(entry)}`)),
  ].filter(({ lines: list, rows: data }) => list.length || data?.length)
}

const photosInWords = ({ photos }: LogEntry) =>
  photos ? ` (${photos.length === 1 ? 'a photo' : `${photos.length} photos`})` : ''

function voltsMeasured(facts: Facts, power: Power, rows: RunSheet['rows']): string[] {
  const measured = rows.find(({ probe }) => probe.id === 'volt:5V')?.seen?.value
  if (measured === undefined) return []
  return expectedOf(facts, power).voltages.filter(({ node }) => node === '@5V')
    .map(({ volts, where }) => `${where}: ${volts.toFixed(2)} V predicted, ${measured} V measured.`)
}

/** Each curve that was kept, with its fit and what the plan goes by now. */
function curvesMeasured(facts: Facts): string[] {
  const { plan: { curves }, heat: { set: { measured } } } = facts
  return [
    ...curves.map((curve) => {
      const { fit, heat, store } = judgeCurve(facts, curve)
      const said = [
        `${curve.values.length} readings over ${Math.round((curve.seconds.at(-1) ?? 0) / 60)} min`,
        ...fit
          ? [`${fit.start.toFixed(1)} to ${fit.end.toFixed(1)} `
            + `${curve.unit}${fit.isSettled ? '' : ', stopped early'}`]
          : [],
        ...heat ? [`the load test predicts ${heat.predictedEndC.toFixed(1)} °C`] : [],
        ...store ? [`${store.measuredH.toFixed(1)} h, predicted ${store.predictedH.toFixed(1)} h`] : [],
      ]
      return `${curve.name}, ${curve.at.slice(0, 10)}: ${said.join('; ')}.`
    }),
    ...measured ? [`Processor to air: ${measured.coolerKw} K/W, measured ${measured.at.slice(0, 10)}.`] : [],
  ]
}

const firstLine = ({ board, supply }: Facts) =>
  `Board: ${board?.name ?? 'none chosen'}. Supply: ${supply?.name ?? 'none chosen'}.`

/** The sheet as Markdown. Law: every part, wire, sighting, curve and entry of the logbook is in it once. */
export function asBuiltOf(facts: Facts, sheet: RunSheet): string {
  const { plan } = facts
  return [
    `# ${plan.name}, as built`, '', ...plan.story ? [plan.story, ''] : [], firstLine(facts), '',
    ...chaptersOf(facts, sheet).flatMap(({ title, lines, heads, rows }) =>
      [`## ${title}`, '', ...heads ? [asRows(heads, rows!)] : lines.map(line => `- ${line}`), '']),
    ...plan.notes ? ['## Notes', '', plan.notes, ''] : [],
  ].join('\n')
}

/** Points across a column of two. */
const PHOTO_WIDTH = 250

/** Photos of the logbook two by two, each with its entry; those whose picture is not at hand are counted. */
function photoPages(log: readonly LogEntry[], pictures: ReadonlyMap<string, string>): Content[] {
  const all = [...log].sort((a, b) => a.at.localeCompare(b.at))
    .flatMap(entry => (entry.photos ?? []).map(({ id }) => ({ entry, id })))
  if (!all.length) return []
  const shown = all.filter(({ id }) => pictures.has(id)).map(({ entry, id }): Content => ({
    width: PHOTO_WIDTH, unbreakable: true,
    stack: [
      { image: pictures.get(id)!, fit: [PHOTO_WIDTH, PHOTO_WIDTH] },
      { text: plain(`${when(entry.at)}: ${entry.text}`), style: 'small' },
    ],
  }))
  const pairs = shown.flatMap((_,
    i) => i % 2 ? [] : [{ columns: shown.slice(i, i + 2), columnGap: 12, margin: [0, 4, 0, 4] }])
  const lacking = all.length - shown.length
  return [
    head('Photos'), ...pairs,
    ...lacking
      ? [`${lacking} ${lacking === 1 ? 'photo is' : 'photos are'} named in the logbook and not `
        + 'in this browser.']
      : [],
  ]
}

/** The same for paper. `pictures` are the photos at hand, as data addresses by their id. */
export function asBuiltPaper(facts: Facts, sheet: RunSheet,
  pictures: ReadonlyMap<string, string> = new Map()): PaperDocument {
  const { plan } = facts
  return {
    info: { title: `${plan.name}, as built` }, ...A4, ...PAPER_STYLES,
    content: [
      { text: `${plan.name}, as built`, style: 'title' }, ...plan.story ? [plain(plan.story)] : [], firstLine(facts),
      ...chaptersOf(facts, sheet).flatMap(({ title, lines, heads, rows }): Content[] => [
        head(title), heads
          ? paperTable(heads, rows!, heads.map((_, i) => i === 0 || heads.length > 4 ? 'auto' : '*'))
          : { ul: lines.map(line => plain(line.replaceAll('`', ''))) },
      ]),
      ...photoPages(plan.log, pictures),
      ...plan.notes ? [head('Notes'), plain(plan.notes)] : [],
    ],
  }
}
