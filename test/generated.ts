/**
 * Plans made of any parts on any board, as a maker has them after placing and writing: for the laws that hold for
 * all of them.
 */
import { evaluate } from '../core/evaluate'
import { placementEdits, placePlan } from '../core/placement/place'
import { applyEdit, type Edit } from '../core/plan/edits'
import type { Between, Plan } from '../core/plan/types'
import { catalogue, planOf } from './plans'
import drawn from './data/drawn.json'
import { drawnPlans, isDrawn, pick, random } from './random'

export { pick, random } from './random'

/** A fresh image's file. practice: as images of the key-value dialect come, in words of our own. */
export const FRESH_FILE = `# Settings are read at the start only.

#dtparam=i2c_arm=on
#dtparam=spi=on

camera_auto_detect=1
display_auto_detect=1
auto_initramfs=1
dtoverlay=vc4-kms-v3d
max_framebuffers=2
disable_fw_kms_setup=1
arm_64bit=1
disable_overscan=1
arm_boost=1

[cm4]
otg_mode=1

[all]
`

/**
 * What plans are drawn from: in `npm test` the entries of a list that stays as it is, so that adding one draws no other
 * plans; in `npm run test:draw` all there are.
 */
const drawnFrom = (list: readonly string[], all: ReadonlyMap<string, unknown>) => isDrawn ? [...all.keys()] : list
const TYPES = drawnFrom(drawn.parts, catalogue.parts)
const BOARDS = drawnFrom(drawn.boards, catalogue.boards)

/** Parts that no plan of `npm test` is drawn from. */
export const NEWCOMERS: readonly string[] = [...catalogue.parts.keys()].filter(id => !drawn.parts.includes(id))

/** A plan of one to `most` parts with any options, nothing placed yet. */
export function anyPlan(seed: number, max = 7): Plan {
  const next = random(seed * 7919 + 13)
  for (let i = 0; i < 5; i++) next()
  const count = 1 + Math.floor(next() * max)
  const parts = Object.fromEntries(Array.from({ length: count }, (_, i) => {
    const type = pick(next, TYPES)
    const options: Record<string, string> = {}
    for (const option of catalogue.parts.get(type)!.options ?? []) if (option.values && next() < 0.4) {
      options[option.id] = pick(next, option.values).value
    }
    return [`part${i}`, [type, options] as [string, Record<string, string>]]
  }))
  return planOf(pick(next, BOARDS), parts, { supply: { type: 'adapter-5v-5a' } })
}

/** The plan after pressing "Place the rest"; null where it cannot be placed. */
export function placed(plan: Plan): Plan | null {
  const result = placePlan(plan, catalogue, { scope: 'rest', brief: true })
  return result.ok ? applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan : null
}

/** With the plan's lines written into a fresh image's file. */
export function written(plan: Plan): Plan {
  const fresh = { ...plan, boot: { text: (catalogue.boards.get(plan.board!)!.bootDialect ?? 'key-value') === 'key-value'
    ? FRESH_FILE
    : '' } }
  return { ...fresh, boot: { ...fresh.boot, text: evaluate(fresh, catalogue).boot.text } }
}

/** Each part that is drawn nowhere, on every board beside three that are: placed and written. */
export const newcomerPlans = (): Plan[] => NEWCOMERS.flatMap(type => BOARDS.flatMap((board, i) => {
  const plan = anyPlan(9000 + i, 3)
  const grown = placed({ ...plan, board, parts: [...plan.parts, { id: 'new', type, name: 'New' }] })
  return grown ? [written(grown)] : []
}))

/** So many plans, placed and written, a part of them in `npm test`; plans that cannot be placed are passed over. */
export function placedPlans(count: number, from = 1, max = 7): Plan[] {
  const plans: Plan[] = []
  for (let seed = from; plans.length < drawnPlans(count); seed++) {
    const plan = placed(anyPlan(seed, max))
    if (plan) plans.push(written(plan))
  }
  return plans
}

const BETWEEN: readonly Between[] = [
  { kind: 'divider', upperOhm: 1800, lowerOhm: 3300 }, { kind: 'level-shifter', fit: 'open-drain' },
  { kind: 'level-shifter', fit: 'push-pull' }, { kind: 'transistor' }, { kind: 'mosfet' }, { kind: 'opto-coupler' },
  { kind: 'rs232-converter' },
]

/** The plan with things in its wires, supplies of its own, a moved wire, a line by hand: as plans are after a while. */
export function lived(plan: Plan, seed: number): Plan {
  const next = random(seed * 104_729 + 7)
  const keys = Object.keys(plan.assignments)
  const nodes = [
    { id: 'mains', type: 'adapter-12v-2a', name: '12 V adapter' },
    { id: 'fuse', type: 'fuse-2000', name: 'Fuse', from: 'mains' },
    { id: 'buck', type: 'step-down-5v-3a', name: 'Step-down', from: 'fuse' },
    { id: 'hub', type: 'hub-powered', name: 'Hub', from: 'buck', upstream: '@usb' },
  ]
  const supplies = plan.parts.flatMap(part =>
    catalogue.parts.get(part.type)!.supplies.map(supply => ({ key: `${part.id}.${supply.id}`, rail: supply.rail,
      from: supply.from })))
  const edits: Edit[] = [
    ...keys.filter(() => next() < 0.15)
      .map((terminal): Edit => ({ edit: 'set-between', terminal, between: pick(next, BETWEEN) })),
    ...next() < 0.5 ? nodes.map((node): Edit => ({ edit: 'add-node', node })) : [],
  ]
  const grown = applyEdit(plan, { edit: 'all', edits }).plan
  const feeds: Edit[] = grown.power.nodes.length
    ? supplies.filter(() => next() < 0.4)
        .map(({ key, rail, from }): Edit => ({ edit: 'feed', consumer: key, from: rail === '12V' || rail === '24V'
          ? 'fuse'
          : from === 'usb'
            ? 'hub'
            : 'buck' }))
    : []
  const moves: Edit[] = keys.filter(() => next() < 0.08)
    .map((terminal): Edit => next() < 0.5
      ? { edit: 'release', terminal }
      : { edit: 'assign', terminal, to: { position: 1 + Math.floor(next() * 40) } })
  const lines: Edit[] = next() < 0.3
    ? [{
        edit: 'edit-text', file: '',
        changes: [{
          from: 0, to: 0,
          insert: pick(
            next,
            [
              'dtparam=i2c_arm=off\n', 'dtoverlay=gpio-fan,gpiopin=18\n', '[pi0]\ndtparam=spi=on\n[all]\n',
              'dtoverlay=w1-gpoi\n',
              'dtparam=audio=off\n',
            ],
          ),
        }],
      }]
    : []
  return applyEdit(grown, { edit: 'all', edits: [...feeds, ...moves, ...lines] }).plan
}

const OWN_LINES = [
  'dtparam=i2c_arm=on', 'dtparam=spi=on', 'dtparam=audio=on', 'enable_uart=1', 'dtoverlay=disable-bt', 'arm_freq=700',
  'over_voltage=9',
  'gpio=17=op,dh', 'gpio=99=op', 'dtoverlay=w1-gpio,gpiopin=4', 'dtoverlay=i2c-rtc',
  'dtoverlay=gpio-fan,gpiopin=14,temp=60000', '[none]',
  'dtoverlay=uart3', 'dtparam=pwr_led_trigger=heartbeat', 'include other.txt', 'hdmi_group=2 # screen',
  'dtoverlay=miniuart-bt', 'what',
]
const COMMAND_LINES = [
  undefined, 'console=serial0,115200 console=tty1 root=/dev/x rootwait', 'console=ttyAMA3,115200',
  'root=/dev/x quiet quiet',
]

/**
 * Any plan with any supply, any power items in its ways, figures of the maker's own, a store, heat, clocks, a scan:
 * right or wrong.
 */
export function worn(seed: number): Plan {
  const next = random(seed * 15_485_863 + 31)
  const chance = (share: number) => next() < share
  for (let i = 0; i < 3; i++) next()
  const bare = twinned(anyPlan(seed, 1 + seed % 8), chance(0.4))
  const signalsOf = (type: string) => catalogue.parts.get(type)!.signals
  const anywhere = () => Object.fromEntries(bare.parts.flatMap(part => signalsOf(part.type).filter(() => chance(0.6))
    .map(signal => [`${part.id}.${signal.id}`, { position: 1 + Math.floor(next() * 40) }])))
  const settled = (chance(0.8) ? placed(bare) : null) ?? { ...bare, assignments: anywhere() }
  const plan = lived(written(settled), seed)
  return applyEdit(plan, { edit: 'all', edits: [...wear(plan, next), ...supplied(plan, next)] }).plan
}

/** With a second one of its first part. */
function twinned(plan: Plan, wanted: boolean): Plan {
  const [first] = plan.parts
  return wanted && first ? { ...plan, parts: [...plan.parts, { ...first, id: 'twin', name: 'twin' }] } : plan
}

/** Wires, clocks, loads, files and scans as they come. */
function wear(plan: Plan, next: () => number): Edit[] {
  const chance = (share: number) => next() < share
  const keys = Object.keys(plan.assignments)
  const { text } = plan.boot!
  return [
    ...keys.filter(() => chance(0.2))
      .map((terminal): Edit => ({ edit: 'dress-wire', terminal, lengthM: pick(next, [0.05, 0.5, 2, 8]) })),
    ...keys.filter(() => chance(0.06)).map((terminal): Edit =>
      ({ edit: 'set-between', terminal, between: { kind: 'pull-up', ohm: pick(next, [330, 1800, 4700, 47_000]) } })),
    ...chance(0.4)
      ? [{ edit: 'set-clock' as const, bus: pick(next, ['i2c1', 'spi0', 'part0']),
          clockHz: pick(next, [10_000, 400_000, 1e6, 4e7]) }]
      : [],
    ...chance(0.3)
      ? [{ edit: 'choose-circuit' as const, controller: 'uart0',
          variant: pick(next, ['full', 'small', 'mini']) }]
      : [],
    ...chance(0.15) ? [{ edit: 'set-stack' as const, stack: plan.parts.map(part => part.id).reverse() }] : [],
    ...chance(0.1) ? [{ edit: 'set-limit' as const, key: 'board.lineMaxMa', value: 2 }] : [],
    ...chance(0.1)
      ? [{
          edit: 'set-option' as const, id: plan.parts[0]!.id, value: 'none such',
          option: catalogue.parts.get(plan.parts[0]!.type)!.options?.[0]?.id ?? 'none',
        }]
      : [],
    ...chance(0.5)
      ? [{ edit: 'edit-text' as const, file: '',
          changes: [{ from: text.length, to: text.length, insert: `${pick(next, OWN_LINES)}\n` }] }]
      : [],
    ...chance(0.4)
      ? [{ edit: 'set-boot' as const,
          boot: { ...plan.boot!, commandLine: pick(next, COMMAND_LINES) } }]
      : [],
    ...chance(0.2)
      ? [{
          edit: 'keep-scan' as const,
          scan: { id: 's', bus: 'i2c1', takenAt: '2026-01-01T00:00:00Z', text: scanText(pick(next, [0x20, 0x3C])) },
        }]
      : [],
    ...plan.parts.filter(part => catalogue.parts.get(part.type)!.contacts && chance(0.7)).map((part): Edit => ({
      edit: 'set-loads', id: part.id, loads: [{
        contact: 1, what: 'Lamp', kind: chance(0.5) ? 'AC' : 'DC', voltageV: pick(next, [5, 12, 24, 230]),
        currentA: pick(next, [0.3, 2, 8]),
      }],
    })),
  ]
}

const scanText = (address: number) => `     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f\n${(address >> 4).toString(16)}0: `
  + Array.from({ length: 16 }, (_, i) => i === (address & 15) ? address.toString(16) : '--').join(' ')

const SUPPLIES = drawnFrom(drawn.supplies, catalogue.supplies)
const ITEMS = drawnFrom(drawn.power, catalogue.powerItems)

/** Any supply, items in its ways, figures, a store, heat and clocks. */
function supplied(plan: Plan, next: () => number): Edit[] {
  const chance = (share: number) => next() < share
  const consumers = ['@socket', '@socket', '@header', '@usb', ...plan.parts.flatMap(part =>
    catalogue.parts.get(part.type)!.supplies.map(supply => `${part.id}.${supply.id}`))]
  const edits: Edit[] = [{
    edit: 'choose-supply',
    supply: chance(0.95) ? { type: pick(next, SUPPLIES), ...chance(0.1) && { currentMa: 900 } } : null,
  }]
  for (let i = 0; i < 6; i++) {
    if (!chance(0.5)) continue
    const from = pick(next, ['@supply', '@cable', '@5V', '@3V3', '@P2', '@usb', ...i ? [`item${i - 1}`] : [], 'nobody'])
    const type = chance(0.25) ? pick(next, SUPPLIES) : chance(0.03) ? 'no-such' : pick(next, ITEMS)
    edits.push({
      edit: 'add-node',
      node: {
        id: `item${i}`, type, name: `Item ${i}`, ...chance(0.9) && { from }, ...chance(0.1) && { open: true },
        ...type.startsWith('hub') && chance(0.8) && { upstream: pick(next, ['@usb', 'nobody']) },
      },
      ...chance(0.8) && { before: pick(next, consumers) },
    })
  }
  if (chance(0.2)) edits.push({ edit: 'join',
    join: { from: 'item0', into: pick(next, ['@socket', '@5V', ...consumers]) } })
  if (chance(0.3)) {
    edits.push({
      edit: 'set-figure', node: pick(next, ['@cable', '@supply', '@board', 'item0']),
      figure: pick(next, ['lengthM', 'ohm', 'peakMa']),
      value: pick(next, [2, -5, 400]),
    })
  }
  edits.push({ edit: 'set-power', power: {
    store: {
      ...plan.power.store, hoursAsked: chance(0.5) ? 12 : null, panelW: chance(0.3) ? 20 : 0,
      temperatureC: chance(0.3) ? -5 : 20,
    },
    heat: {
      cooler: pick(next, ['none', 'fins', 'active']), enclosure: pick(next, ['open', 'vented', 'closed']),
      ambientC: pick(next, [20, 35, 50]), load: pick(next, ['idle', 'typical', 'peak']), minutes: 30,
      fan: chance(0.3) ? { mode: 'threshold', onC: 60, hysteresisC: pick(next, [0.5, 5]) } : { mode: 'none' },
    },
    clock: { coreMhz: chance(0.2) ? 900 : null, voltageSteps: chance(0.2) ? pick(next, [-4, 3]) : 0 },
    steps: chance(0.4)
      ? [{ id: 'busy', name: 'Busy', base: 'typical', loads: { [pick(next, consumers)]: 'peak' }, open: [],
          seconds: 20 }]
      : [],
    shutdownS: chance(0.2) ? 60 : null,
  } })
  return edits
}
