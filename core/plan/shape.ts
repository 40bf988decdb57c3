/**
 * The plan document: what the maker wants, and nothing that can be computed from it. Unknown fields are let through and
 * kept. `docs/plan-format.md` says the same for people who write one by hand.
 */
import { WIRE_END_IDS } from './ends'
import { CARRIES_PATTERN } from './wire-colours'
import { boardShape } from '../catalogue/shapes/board'
import { partShape } from '../catalogue/shapes/part'
import {
  depending, flag, list, map, nullable, number, object, oneOf, open, optional, startOf, starting, text, filled,
  withUnknown, type Of,
} from '../shape/shape'
import { hostShape } from './host-shape'
import { keptWorksheet, powerShape, supplyChoice } from './power-shape'
import { STAGE_IDS } from './stages'

export const PLAN_FORMAT = 'voltaris-plan'
export const PLAN_VERSION = 1

export const PART_ID = /^[A-Za-z][A-Za-z0-9-]{0,39}$/
export const TERMINAL_KEY = /^[A-Za-z][A-Za-z0-9-]{0,39}\.[A-Za-z0-9_-]{1,40}$/

const freeText = text({ empty: true, max: 200_000 })
const fileText = text({ empty: true, max: 1_000_000 })
const said = text({ empty: true, max: 300 })
const shortId = text({ max: 60 })
const typeId = text({ max: 100 })
const partId = text({ pattern: PART_ID, called: 'part id: a letter, then letters, digits and dashes' })
const terminalKey = text({ pattern: TERMINAL_KEY, called: 'part.terminal' })
const position = number({ min: 1, max: 100, whole: true })
const when = text({ date: true })
/** A record keyed by `part.terminal`. */
const byTerminal = <T>(shape: Parameters<typeof map<T>>[0]) => map(shape, terminalKey)

/** A load on a relay's contact. */
const contactLoad = open({
  contact: number({ min: 1, max: 64, whole: true }),
  what: text({ empty: true, max: 200 }),
  kind: oneOf('AC', 'DC'),
  voltageV: number({ min: 0, max: 1000 }),
  currentA: number({ min: 0, max: 1000 }),
  /** A coil or a motor. */
  inductive: optional(flag),
  /** A diode, a snubber or a varistor lies across it. */
  suppressed: optional(flag),
})

const part = withUnknown({
  /** Letters, digits and dashes; unique in the plan. */
  id: partId,
  /** A part of the catalogue. */
  type: typeId,
  name: said,
  options: optional(map(text({ empty: true, max: 100 }))),
  loads: optional(list(contactLoad, { max: 64 })),
  notes: optional(freeText),
})

/** Where a terminal is wired: a header position, or another part's terminal such as `expander.A3`. */
const assignment = open({
  position: optional(position),
  terminal: optional(terminalKey),
  /** The maker set it: placement leaves it alone. */
  fixed: optional(flag),
}, { either: ['position', 'terminal'] })

const ohm = number({ above: 0, max: 1e8 })
/** What stands between a part's terminal and the place it is wired to. */
const between = open({
  kind: oneOf('divider', 'level-shifter', 'transistor', 'mosfet', 'opto-coupler', 'rs232-converter', 'pull-up'),
  /** Pull-up: resistor from the wire to 3V3. */
  ohm: depending('kind', 'pull-up', ohm, optional(ohm)),
  /** Shifter: made for open-drain lines, or for push-pull ones of high speed. */
  fit: optional(oneOf('open-drain', 'push-pull')),
  /** Divider, from the driving side: resistor in the wire. */
  upperOhm: depending('kind', 'divider', ohm, optional(ohm)),
  /** Divider: resistor from the tap to ground. */
  lowerOhm: depending('kind', 'divider', ohm, optional(ohm)),
})

/** An I²C bus that the kernel makes on two plain lines. */
const softwareBus = open({
  /** `i2c-soft-1` … */
  id: text({ pattern: /^i2c-soft-[1-9]$/, called: 'i2c-soft-1 to i2c-soft-9' }),
  /** Header positions. */
  sda: position,
  scl: position,
})

const bootFile = open({
  path: optional(text({ max: 300 })),
  /** The file as it is on the card, kept byte for byte. */
  text: fileText,
  /** `latin1` when the bytes were no UTF-8: one character is one byte. */
  encoding: optional(oneOf('utf-8', 'latin1')),
  /** The kernel command line, if the maker pasted it. */
  commandLine: optional(text({ empty: true, max: 10_000 })),
  /** How the file is written; told from its text where nothing is said. */
  dialect: optional(oneOf('key-value', 'extlinux', 'environment')),
  /** Which generation of image the card holds. */
  image: optional(oneOf('older', 'newer')),
  /** Files that the boot file includes, by name. */
  includes: optional(map(fileText, text({ max: 300 }))),
  /** Overlays of the maker's own: source text, or a blob in base64. */
  overlays: optional(list(open({ name: text({ max: 200 }), kind: oneOf('source', 'blob'), content: fileText }),
    { max: 100 })),
  /** A base tree of the maker's own, for rehearsing: a blob in base64. */
  base: optional(open({ name: text({ max: 300 }), content: fileText })),
  /** Parts whose lines are switched off. */
  off: optional(list(partId, { max: 200 })),
  /** Parts for which the overlay that Voltaris makes is loaded. */
  made: optional(list(partId, { max: 200 })),
  /** What happens to lines of parts that are off or gone. */
  whenOff: optional(oneOf('comment', 'remove')),
  /** The files before they were written, newest last. */
  before: optional(list(open({ at: when, text: fileText, commandLine: optional(text({ empty: true, max: 10_000 })) }),
    { max: 20 })),
})

const millimetres = number({ min: -2000, max: 2000 })
const sizeMm = number({ min: 0, max: 3000 })
const wireEnd = optional(oneOf(...WIRE_END_IDS))
/** `nearEnd` is at the part, `farEnd` where the wire goes. */
const wireChoice = open({
  colour: optional(text({ max: 40 })), lengthM: optional(number({ above: 0, max: 100 })), nearEnd: wireEnd,
  farEnd: wireEnd,
})
const stepId = text({ max: 200 })
const stepRule = open({ first: stepId, then: stepId, why: starting(text({ empty: true, max: 200 }), '') })
const direction = oneOf('left', 'right', 'near', 'far')
const flatEnd = open({
  ways: number({ min: 2, max: 80, whole: true }), pitchMm: oneOf(0.5, 1),
  contacts: oneOf('top', 'bottom', 'left', 'right', 'near', 'far'),
  opens: oneOf('left', 'right', 'near', 'far', 'up'),
  looks: oneOf('up', 'down'), first: direction,
})
const build = open({
  /** Wires done, by wire key. */
  done: starting(list(text({ max: 200 })), []),
  /** Seconds that it took, by the key of what is done. */
  took: starting(map(number({ min: 0, max: 1e6 }), text({ max: 200 })), {}),
  /** `part.terminal` → colour and length chosen by the maker. */
  wires: starting(byTerminal(wireChoice), {}),
  /** Colours by what a wire carries, where they are not the usual ones. */
  colours: starting(map(text({ max: 40 }), text({ pattern: CARRIES_PATTERN, called: 'what a wire carries' })), {}),
  /** Steps in the maker's own order, by id; the computed one while it is empty. */
  order: starting(list(stepId, { max: 200 }), []),
  /** Flat cables whose slots were looked at. */
  flat: starting(list(open({ id: shortId, name: text({ empty: true, max: 80 }), one: flatEnd, two: flatEnd,
    apartMm: number(
      { min: 1, max: 2000 }) }), {
    max: 20, unique: 'id',
  }), []),
  /** The board on spacers on a plate, where it stands so. */
  mount: optional(open({
    thread: oneOf('M2.5', 'M3'), plateMm: number({ min: 0.3, max: 20 }), underMm: number({ min: 0, max: 60 }),
    washers: starting(
      flag, false),
    /** The part whose threads it stands on, in place of a plate. */
    onto: optional(partId),
  })),
  /** Boards that are pushed on stand on spacers, where holes lie over holes. */
  spacers: optional(flag),
  /** Where a thing lies or is put, by part; where nothing is said it is laid out beside the board. */
  places: starting(map(open({
    on: oneOf('table', 'board', 'lid', 'socket'),
    /** Its near left corner over the board's own; for `socket` nothing. */
    xMm: optional(millimetres),
    yMm: optional(millimetres),
    turned: optional(flag),
    /** Of a board that is pushed on: a riser or a taller socket lifts it by so much. */
    liftMm: optional(number({ above: 0, max: 60 })),
    /** Likewise: a film that insulates lies under it. */
    film: optional(flag),
    /** Of a part with threads of its own: how thick what is screwed to it is. */
    clampedMm: optional(number({ min: 0.3, max: 30 })),
    /** A socket of the board, by its id in the board's file. */
    socket: optional(shortId),
  }), partId), {}),
  /** Sizes measured at the thing, which stand in for those of its file; by part, the board is `@board`. */
  measured: starting(map(open({
    widthMm: optional(sizeMm), depthMm: optional(sizeMm), aboveMm: optional(sizeMm), belowMm: optional(sizeMm),
    lidMm: optional(sizeMm),
  }), typeId), {}),
  /** What has to come before what, by the maker. */
  rules: starting(list(stepRule, { max: 60 }), []),
})

const scan = open({
  id: shortId,
  /** Bus the scan was made on, e.g. `i2c1`. */
  bus: shortId,
  text: freeText,
  takenAt: when,
})

/** A program, configuration or table of connections that is held against the plan. */
const heldProgram = open({
  id: shortId,
  name: text({ min: 1, max: 120 }),
  text: text({ empty: true, max: 400_000 }),
  /** What it is written in; told from name and text where nothing is said. */
  language: optional(oneOf('python', 'c', 'javascript', 'shell', 'yaml', 'json', 'boot', 'table')),
  /** How it counts pins; told by evidence where nothing is said. */
  numbering: optional(oneOf('header', 'line', 'own')),
})

/** A finding that the maker judged acceptable, with what it said then. */
const setAside = open({
  /** The finding's id: it can hold a whole line of a boot file. */
  id: text({ max: 4000 }),
  severity: oneOf('stop', 'caution', 'note'),
  /** Its figures, as text: with others it counts again. */
  figures: text({ empty: true, max: 2000 }),
  reason: text({ min: 1, max: 1000 }),
  at: when,
})

/** What was seen at a probe of the run sheet. */
const sighting = open({
  /** The probe: it can hold a whole line of a boot file. */
  id: text({ max: 4000 }),
  /** In the words of the model. */
  outcome: text({ min: 1, max: 1000 }),
  /** The figure that was typed, in the probe's unit. */
  value: optional(number({ min: -1e6, max: 1e9 })),
  at: when,
})

/** Readings over time: as many values as seconds. */
const curve = open({
  id: shortId,
  name: text({ min: 1, max: 120 }),
  unit: text({ empty: true, max: 20 }),
  at: when,
  seconds: list(number({ min: 0, max: 1e9 }), { max: 2000 }),
  values: list(number({ min: -1e12, max: 1e12 }), { max: 2000 }),
})

/** A photo: the picture itself lies beside the plan, in the browser's database and in what is exported with it. */
const photo = object({
  id: text({ pattern: /^[A-Za-z0-9-]{1,60}$/, called: 'letters, digits and dashes' }),
  widthPx: number({ min: 1, max: 20_000, whole: true }), heightPx: number({ min: 1, max: 20_000, whole: true }),
})
const logEntry = open({
  id: shortId, at: when, stage: oneOf(...STAGE_IDS), text: freeText, marked: optional(flag),
  photos: optional(list(photo, { min: 1, max: 12, unique: 'id' })),
})

const planFields = {
  format: oneOf(PLAN_FORMAT),
  version: oneOf(PLAN_VERSION),
  name: text({ min: 1, max: 300 }),
  story: optional(freeText),
  notes: optional(freeText),
  board: nullable(typeId),
  supply: supplyChoice,
  parts: list(part, { max: 200, unique: 'id' }),
  /** `part.terminal` → place. */
  assignments: byTerminal(assignment),
  /** `part.terminal` → what stands between. */
  between: starting(byTerminal(between), {}),
  /** Header positions nobody may be placed on, with the maker's reason. */
  reserved: starting(list(open({ position, reason: optional(said) }), { unique: 'position' }), []),
  /** Limits replaced by the maker, by key, e.g. `board.lineMaxMa`. */
  limits: starting(map(open({ value: number({ min: 0 }), origin: optional(text({ max: 300 })) }), typeId), {}),
  /** Which circuit serves a controller, where the board lets one choose: `{ "uart0": "full" }`. */
  controllers: starting(map(shortId, shortId), {}),
  /** Clock of a bus in Hz, by bus; what is not here runs at its usual speed. */
  clocks: starting(map(number({ above: 0, max: 1e9 }), shortId), {}),
  /** Buses made by the kernel on plain lines. */
  softwareBuses: starting(list(softwareBus, { unique: 'id' }), []),
  /** Add-on boards from the lowest up, by part; those not here follow in plan order. */
  stack: starting(list(partId, { unique: true }), []),
  /** Weights of placement replaced by the maker, by name. */
  weights: starting(map(number({ min: 0, max: 1e5 }), shortId), {}),
  /** Boards and parts of the maker's own, kept in the plan so that it stands by itself. */
  own: filled(object({
    boards: starting(list(boardShape, { max: 50, unique: 'id' }), []),
    parts: starting(list(partShape, { max: 200, unique: 'id' }), []),
  })),
  /** How it is fed, cooled and clocked. */
  power: filled(powerShape),
  /** Worksheets that were used. */
  worksheets: starting(list(keptWorksheet, { max: 200 }), []),
  boot: starting(nullable(bootFile), null),
  build: filled(build),
  /** What the board must be told beside its boot file, and what is written down of it. */
  host: filled(hostShape),
  scans: starting(list(scan), []),
  /** What was seen when it was brought up, the last for each probe. */
  seen: starting(list(sighting, { max: 2000, unique: 'id' }), []),
  /** Curves that were measured. */
  curves: starting(list(curve, { max: 40, unique: 'id' }), []),
  /** Example code and tables of connections, held against the plan. */
  programs: starting(list(heldProgram, { max: 30, unique: 'id' }), []),
  log: starting(list(logEntry), []),
  /** Findings that do not count, with the maker's reasons. */
  aside: starting(list(setAside, { max: 500, unique: 'id' }), []),
}

export const planShape = withUnknown(planFields)
/** Names of the fields that are declared. */
export const PLAN_FIELDS: ReadonlySet<string> = new Set(Object.keys(planFields))

/** The fields of a plan that have a value before anybody says anything. */
export const firstFields = () => startOf(planShape)

export interface Assignment extends Of<typeof assignment> {}
export interface Between extends Of<typeof between> {}
export interface ContactLoad extends Of<typeof contactLoad> {}
export interface PlanPart extends Of<typeof part> {}
export interface BootFile extends Of<typeof bootFile> {}
export interface Scan extends Of<typeof scan> {}
export interface SeenOutcome extends Of<typeof sighting> {}
export interface KeptCurve extends Of<typeof curve> {}
export interface HeldProgram extends Of<typeof heldProgram> {}
export interface SetAside extends Of<typeof setAside> {}
export interface PhotoRef extends Of<typeof photo> {}
export interface LogEntry extends Of<typeof logEntry> {}
export interface SoftwareBus extends Of<typeof softwareBus> {}
export interface Plan extends Of<typeof planShape> {}
