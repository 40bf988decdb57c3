/** Plans made of any parts on any board, as a maker has them after placing and writing: for the laws that hold for all of them. */
import { evaluate } from '../core/evaluate'
import { placementEdits, placePlan } from '../core/placement/place'
import { applyEdit, type Edit } from '../core/plan/edits'
import type { Between, Plan } from '../core/plan/types'
import { catalogue, planOf } from './plans'

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

const TYPES = [...catalogue.parts.keys()]
const BOARDS = [...catalogue.boards.keys()]

/** Numbers from 0 to 1, the same for the same seed: a linear congruential generator with the constants of ISO C's example. */
export function random(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7FFFFFFF
    return state / 0x7FFFFFFF
  }
}

export const pick = <T>(next: () => number, list: readonly T[]): T => list[Math.min(list.length - 1, Math.floor(next() * list.length))]!

/** A plan of one to `most` parts with any options, nothing placed yet. */
export function anyPlan(seed: number, most = 7): Plan {
  const next = random(seed * 7919 + 13)
  for (let i = 0; i < 5; i++) next()
  const count = 1 + Math.floor(next() * most)
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

/** So many plans, placed and written; plans that cannot be placed are passed over. */
export function placedPlans(count: number, from = 1, most = 7): Plan[] {
  const plans: Plan[] = []
  for (let seed = from; plans.length < count; seed++) {
    const plan = placed(anyPlan(seed, most))
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
    { id: 'mains', type: 'adapter-12v-2a', name: '12 V adapter' }, { id: 'fuse', type: 'fuse-2000', name: 'Fuse', from: 'mains' },
    { id: 'buck', type: 'step-down-5v-3a', name: 'Step-down', from: 'fuse' },
    { id: 'hub', type: 'hub-powered', name: 'Hub', from: 'buck', upstream: '@usb' },
  ]
  const supplies = plan.parts.flatMap(part =>
    catalogue.parts.get(part.type)!.supplies.map(supply => ({ key: `${part.id}.${supply.id}`, rail: supply.rail, from: supply.from })))
  const edits: Edit[] = [
    ...keys.filter(() => next() < 0.15).map((terminal): Edit => ({ edit: 'set-between', terminal, between: pick(next, BETWEEN) })),
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
              'dtparam=i2c_arm=off\n', 'dtoverlay=gpio-fan,gpiopin=18\n', '[pi0]\ndtparam=spi=on\n[all]\n', 'dtoverlay=w1-gpoi\n',
              'dtparam=audio=off\n',
            ],
          ),
        }],
      }]
    : []
  return applyEdit(grown, { edit: 'all', edits: [...feeds, ...moves, ...lines] }).plan
}

const SUPPLIES = [...catalogue.supplies.keys()]
const ITEMS = [...catalogue.powerItems.keys()]

/** Any plan with any supply, any power items in its ways, figures of the maker's own, a store, heat, clocks, a scan: right or wrong. */
export function worn(seed: number): Plan {
  const next = random(seed * 15_485_863 + 31)
  const bare = anyPlan(seed, 9)
  const chance = (share: number) => next() < share
  let plan = lived(written(placed(bare) ?? { ...bare, assignments: Object.fromEntries(bare.parts.flatMap(part =>
    catalogue.parts.get(part.type)!.signals
      .filter(() => chance(0.6))
      .map(signal => [`${part.id}.${signal.id}`, { position: 1 + Math.floor(next() * 40) }]))) }), seed)
  plan = { ...plan, supply: chance(0.95) ? { type: pick(next, SUPPLIES), ...chance(0.1) && { currentMa: 900 } } : null }
  const consumers = [
    '@socket', '@cable', '@header', '@usb',
    ...plan.parts.flatMap(part => catalogue.parts.get(part.type)!.supplies.map(supply => `${part.id}.${supply.id}`)),
  ]
  const edits: Edit[] = []
  for (let i = 0; i < 6; i++) {
    if (!chance(0.6)) continue
    const id = `item${i}`
    const from = pick(next, ['@supply', '@cable', '@5V', '@3V3', '@P2', '@usb', ...i ? [`item${i - 1}`] : []])
    const type = chance(0.2) ? pick(next, SUPPLIES) : pick(next, ITEMS)
    edits.push({
      edit: 'add-node', node: { id, type, name: `Item ${i}`, ...chance(0.9) && { from }, ...chance(0.1) && { open: true } },
      ...chance(0.8) && { before: pick(next, consumers) },
    })
  }
  if (chance(0.2)) edits.push({ edit: 'join', join: { from: 'item0', into: pick(next, ['@socket', '@5V', '@header']) } })
  if (chance(0.3)) {
    edits.push({
      edit: 'set-figure', node: pick(next, ['@cable', '@supply', '@board']), figure: pick(next, ['lengthM', 'ohm', 'peakMa']), value: 2,
    })
  }
  if (chance(0.4)) {
    edits.push({
      edit: 'set-clock', bus: pick(next, ['i2c1', 'spi0', 'part0']), clockHz: pick(next, [10_000, 400_000, 1_000_000, 40_000_000]),
    })
  }
  if (chance(0.3)) edits.push({ edit: 'choose-circuit', controller: 'uart0', variant: pick(next, ['full', 'small', 'mini']) })
  edits.push({ edit: 'set-power', power: {
    store: { ...plan.power.store, hoursAsked: chance(0.5) ? 12 : null, panelW: chance(0.3) ? 20 : 0, temperatureC: chance(0.3) ? -5 : 20 },
    heat: {
      ...plan.power.heat, load: pick(next, ['idle', 'typical', 'peak']), enclosure: pick(next, ['open', 'vented', 'closed']),
      cooler: pick(next, ['none', 'fins', 'active']), ambientC: pick(next, [20, 35, 50]),
      fan: chance(0.3) ? { mode: 'threshold', onC: 60, hysteresisC: 5 } : { mode: 'none' },
    },
    clock: { coreMhz: chance(0.2) ? 900 : null, voltageSteps: chance(0.2) ? -4 : 0 },
    steps: chance(0.4)
      ? [{ id: 'busy', name: 'Busy', base: 'typical', loads: { [pick(next, consumers)]: 'peak' }, open: [], seconds: 20 }]
      : [],
  } })
  if (chance(0.3)) {
    edits.push({
      edit: 'keep-scan',
      scan: {
        id: 's', bus: 'i2c1', takenAt: '2026-01-01T00:00:00Z',
        text: '     0  1  2  3  4  5  6  7  8  9  a  b  c  d  e  f\n00:                         -- -- -- -- -- -- -- --\n10: -- -- -- -- '
          + '-- -- -- -- -- -- -- -- -- -- -- --\n20: 20 -- -- -- -- -- -- -- -- -- -- -- -- -- -- --\n',
      },
    })
  }
  for (const part of plan.parts) if (catalogue.parts.get(part.type)!.contacts && chance(0.7)) {
    edits.push({
      edit: 'set-loads', id: part.id,
      loads: [{
        contact: 1, what: 'Lamp', kind: chance(0.5) ? 'AC' : 'DC', voltageV: pick(next, [5, 12, 24, 230]),
        currentA: pick(next, [0.3, 2, 8]),
      }],
    })
  }
  return applyEdit(plan, { edit: 'all', edits }).plan
}
