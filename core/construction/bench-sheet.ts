/**
 * The bench sheet: all that is needed at the bench on paper, as a document definition of nested plain objects (the open
 * shape that document makers such as pdfmake take). Pictures are made from the bodies, boxes are for ticking.
 */
import type { Facts } from '../facts/types'
import type { Assembly } from '../mechanics/assembly'
import { runsOf, withLanes } from '../mechanics/runs'
import { seenFrom } from '../mechanics/seen'
import { svgOf } from '../mechanics/svg'
import { flatCableFor } from '../mechanics/flat-cable'
import { flatCablesOf, seatingOf } from '../mechanics/flat-cables'
import { misplugged, WAY_WORDS } from '../mechanics/plugged'
import type { Netlist } from '../netlist/types'
import { A4, head, PAPER_STYLES, plain, table, type Content, type PaperDocument } from '../documents/paper'
import { endsInWords } from './ends'
import { cutListOf, meetingsOf } from './harness'
import { endLabelsOf, partLabelsOf } from './labels'
import type { ListedItem } from './parts-list'
import type { BuildSteps } from './steps'
import { stepOfBody } from './steps/bodies'
import { TOOL_WORDS, type BuildStep } from './steps/types'
import type { Wire } from './wires'

export interface OnTheBench {
  facts: Facts
  netlist: Netlist
  wires: readonly Wire[]
  items: readonly ListedItem[]
  build: BuildSteps
  /** Null where nobody knows how large the board is. */
  assembly: Assembly | null
  /** Stops that are open: whoever builds has to know. */
  stops: readonly string[]
}

/** Width between the margins, in points. */
const WIDE = 515
/** The whole sheet. Pure. */
export function benchSheetOf(bench: OnTheBench): PaperDocument {
  const { facts, build, stops } = bench
  return {
    info: { title: `${facts.plan.name}: bench sheet` }, ...A4,
    content: [
      { text: facts.plan.name, style: 'title' },
      plain(`${facts.board?.name ?? 'No board chosen'}. ${build.steps.length} steps, about ${build.minutes} minutes.`),
      { text: 'Supply unplugged while you wire. Touch something earthed first. Never move a wire on a running board. '
        + 'Mains is for closed supplies only, and for people who are licensed for it.', style: 'caution' },
      ...stops.map((title): Content => ({ text: `Open stop: ${plain(title)}. Mend it before the supply goes in.`,
        style: 'caution' })),
      ...build.leftovers.map(({ words }): Content => ({ text: plain(words), style: 'caution' })),
      ...overview(bench), ...stepPages(bench), ...harness(bench), ...shopping(bench), ...flatCables(bench),
      ...wrongPlugs(bench),
      ...labels(bench),
    ],
    ...PAPER_STYLES,
  }
}

/** A box to tick, with words beside it. */
const tick = (text: string, strong = false): Content => ({
  columns: [
    { width: 14, canvas: [{ type: 'rect', x: 0, y: 1, w: 8, h: 8, lineWidth: strong ? 1.4 : 0.7 }] },
    { text: plain(text), bold: strong },
  ], margin: [0, 1, 0, 0],
})

function overview({ assembly, wires }: OnTheBench): Content[] {
  if (!assembly) return []
  const all = () => 'there' as const
  const runs = runsOf(assembly.bodies, wires)
  const stack = { bodies: assembly.bodies.filter(({ laid }) => !laid) }
  return [
    head('What it becomes'),
    { svg: svgOf(withLanes(seenFrom(assembly, 'above'), runs.length), all, 5, runs), fit: [WIDE, 280] },
    { svg: svgOf(seenFrom(stack, 'near'), all, 3), fit: [WIDE, 110], margin: [0, 6, 0, 0] },
    { text: 'From above, and the stack from the near side, to scale. What lies beside the board lies anywhere.',
      style: 'small' },
  ]
}

function stepPages(bench: OnTheBench): Content[] {
  const { build, wires, assembly } = bench
  const byKey = new Map(wires.map((wire, i) => [wire.key, { ...wire, number: i + 1 }]))
  return [
    head('Steps'),
    ...build.broken.map(({ first, then, why }): Content => ({
      text: `Out of order: "${titleOf(build, first)}" comes after "${titleOf(build, then)}", but ${why}.`,
      style: 'caution',
    })),
    ...build.steps.map((step, i): Content => {
      const svg = assembly && pictureOf(step, i, build, assembly)
      const words: Content[] = [
        { text: plain(`${i + 1}. ${step.title}`), style: 'step' },
        { text: [TOOL_WORDS[step.tool], ...step.side === 'any'
          ? []
          : [`${step.side} up`], `about ${step.minutes} min`].join(', '),
        style: 'small' },
        ...step.cautions.map((text): Content => ({ text: plain(text), style: 'caution' })),
        ...step.how.map(plain),
        ...step.conductors.map((key) => {
          const wire = byKey.get(key)
          return tick(wire ? `${wire.number}  ${wire.colour} ${wire.partName} ${wire.from} → ${wire.to}` : key)
        }),
        ...step.undo === null ? [{ text: 'There is no way back from here.', style: 'caution' }] : [],
        tick(`${step.hold ? 'Stop here until: ' : ''}${step.check}`, step.hold),
      ]
      return svg
        ? { columns: [{ width: '*', stack: words }, { width: 190, svg, fit: [190, 120], margin: [8, 8, 0, 0] }],
            unbreakable: step.conductors.length < 25 }
        : { stack: words, unbreakable: step.conductors.length < 25 }
    }),
  ]
}

const titleOf = ({ bench }: BuildSteps, id: string) => bench.steps.find(step => step.id === id)?.title ?? id

/** What is there after this step, with what is new in it; null where nothing new is to be seen. */
function pictureOf({ id, side }: BuildStep, at: number, { steps }: BuildSteps, assembly: Assembly): string | null {
  const place = new Map(steps.map((step, i) => [step.id, i]))
  const standOf = (body: Parameters<typeof stepOfBody>[0]) => {
    const step = stepOfBody(body, steps)
    const i = step === null ? -1 : place.get(step)!
    if (i === at) return 'now' as const
    return i < at ? 'there' as const : 'later' as const
  }
  if (!assembly.bodies.some(body => stepOfBody(body, steps) === id)) return null
  // What lies elsewhere on the table only makes it small.
  const bodies = assembly.bodies.filter(body => standOf(body) === 'now' || (standOf(body) === 'there' && !body.laid))
  return svgOf(seenFrom({ bodies }, side === 'bottom' ? 'below' : 'above'), standOf, 6)
}

function harness({ wires, netlist }: OnTheBench): Content[] {
  if (!wires.length) return []
  const meetings = meetingsOf(netlist)
  return [
    head('Wires, in the order of connecting'),
    table(['', 'Part', 'From', 'To', 'Colour', 'm'], wires.map(({ partName, from, to, colour, lengthM }, i) =>
      [i + 1, partName, from, to, colour, lengthM || '']), [18, 100, '*', '*', 44, 24]),
    head('What is cut from which reel'),
    table(['Pieces', 'm', 'AWG', 'Colour', 'Wires'], cutListOf(wires).map(({ count, lengthM, awg, colour, numbers }) =>
      [count, lengthM, awg === undefined ? '' : Math.round(awg), colour, numbers.join(', ')]), [36, 30, 30, 60, '*']),
    { text: `Ends of the wires: ${endsInWords(wires)}.`, style: 'small' },
    ...meetings.length
      ? [head('Where wires meet'), table(['Place', 'Ways'], meetings.map(({ name, ways }) => [name, ways]), ['*', 40])]
      : [],
  ]
}

function shopping({ items }: OnTheBench): Content[] {
  if (!items.length) return []
  return [head('What lies on the table'), table(['', 'What', 'For'], items.map(({ count, what, names, lengthM }) =>
    [lengthM ? `${lengthM} m` : count, what, names.filter(name => name !== what).join(', ')]), [36, '*', '*'])]
}

function flatCables({ facts, assembly }: OnTheBench): Content[] {
  const told = [
    ...flatCablesOf(facts, assembly?.bodies ?? null).map(cable => `${cable.name}: ${[
      ...cable.answer.reasons, ...cable.answer.fits ? [seatingOf(cable)] : []].join(' ')}`),
    ...facts.plan.build.flat.map(({ name, one, two, apartMm }) =>
      `${name}: ${flatCableFor(one, two, apartMm).reasons.join(' ')}`),
  ]
  return told.length
    ? [head('Flat cables'), ...told.map((words): Content => ({ text: plain(words), margin: [0, 2, 0, 0] }))]
    : []
}

function wrongPlugs({ facts }: OnTheBench): Content[] {
  const ways = misplugged(facts).filter(({ harm }) => harm !== 'dead')
  return ways.length
    ? [head('Pushed on wrong: what harms, and how it is seen before power'),
        table(['Board', 'Way', 'What it does', 'Look'], ways.map((
          { partName, way, meetings, look, measure }) => [partName, WAY_WORDS[way],
          meetings.slice(0, 2).map(({ words }) => words).join(
            ' '), measure
            ? `${look} ${measure}`
            : look]), [70, 55, '*', '*'])]
    : []
}

/** In a grid to be cut out: for both ends of every wire, and for parts that look alike. */
function labels({ facts, wires }: OnTheBench): Content[] {
  const ends = endLabelsOf(wires).map(({ number, here, there }) => [`${number}`, here, `from ${there}`])
  const parts = partLabelsOf(facts).map(({ name, told }) => ['', name, told])
  const all = [...ends, ...parts]
  if (!all.length) return []
  const rows = Array.from({ length: Math.ceil(all.length / LABELS_ACROSS) },
    (_, row) => Array.from({ length: LABELS_ACROSS }, (__, i) => {
      const [number, here, there] = all[row * LABELS_ACROSS + i] ?? ['', '', '']
      return { stack: [{ text: plain(`${number} ${here}`), bold: true }, { text: plain(there!), fontSize: 7 }],
        fontSize: 8 }
    }))
  return [
    head('Labels, to be cut out: both ends of each wire, and parts that look alike'),
    { table: { widths: Array(LABELS_ACROSS).fill('*'), body: rows, dontBreakRows: true } },
  ]
}

const LABELS_ACROSS = 4
