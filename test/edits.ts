/** Every kind of edit, for laws about changing plans. */
import fc from 'fast-check'
import type { Edit } from '../core/plan/edits'
import type { Host } from '../core/plan/host-shape'
import { CARRIES_IDS } from '../core/plan/wire-colours'
import { catalogue } from './plans'

const partId = fc.constantFrom('scale', 'brood', 'west', 'panel', 'labels', 'nobody')
const terminal = fc.constantFrom('scale.dout', 'porch.sda', 'west.sda', 'labels.tx', 'levers.b1', 'nobody.x')
const nodeId = fc.constantFrom('fuse', 'switch', 'panel-lead')
const text = fc.string({ maxLength: 20 })
const direction = fc.constantFrom('left' as const, 'right' as const, 'near' as const, 'far' as const)
const flatEnd = fc.record({
  ways: fc.constantFrom(15, 22), pitchMm: fc.constantFrom(0.5 as const, 1 as const),
  contacts: fc.constantFrom('top' as const,
    'bottom' as const),
  opens: direction, looks: fc.constantFrom('up' as const, 'down' as const), first: direction,
})

/** Every kind of edit, on parts that may or may not be in the plan. */
export const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({
    edit: fc.constant('set-aside' as const),
    entry: fc.record({
      id: fc.constantFrom(
        'terminal.unplaced scale', 'unplaced brood.dq', 'x',
      ), severity: fc.constantFrom('caution' as const, 'stop' as const),
      figures: text, reason: fc.constantFrom('seen at the bench', 'short runs only'),
      at: fc.constant('2026-05-01T10:00:00.000Z'),
    }),
  }),
  fc.record({ edit: fc.constant('count-again' as const), id: fc.constantFrom('terminal.unplaced scale', 'x') }),
  fc.record({
    edit: fc.constant('keep-program' as const),
    program: fc.record({ id: fc.constantFrom('p1', 'p2'), name: fc.constantFrom('lamp.py', 'x'), text }),
  }),
  fc.record({
    edit: fc.constant('keep-curve' as const),
    curve: fc.record({
      id: fc.constantFrom('c1', 'c2'), name: fc.constantFrom('processor', 'x'), unit: fc.constant('°C'),
      at: fc.constant('2026-05-01T10:00:00.000Z'), seconds: fc.constant<number[]>([0, 1, 2]),
      values: fc.constant<number[]>([40, 41, 43]),
    }),
  }),
  fc.record({ edit: fc.constant('drop-curve' as const), id: fc.constantFrom('c1', 'c3') }),
  fc.record({ edit: fc.constant('drop-program' as const), id: fc.constantFrom('p1', 'p3') }),
  fc.record({
    edit: fc.constant('set-host' as const),
    host: fc.constantFrom<Partial<Host>>(
      { name: 'box' }, { user: 'keeper', remote: true },
      { runs: [{ id: 'r', name: 'a', how: 'service' as const, command: 'x' }] },
      { matrix: { pad: { 0.1: { code: 'KEY_A' } } } }, { files: { '/etc/x': { text: 'a\n' } } },
    ),
  }),
  fc.record({ edit: fc.constant('rename' as const), name: text }),
  fc.record({ edit: fc.constant('write-notes' as const), notes: text }),
  fc.record({ edit: fc.constant('choose-board' as const),
    board: fc.constantFrom('forty-classic', 'forty-usb-c', null) }),
  fc.record({ edit: fc.constant('choose-supply' as const), supply: fc.constantFrom({ type: 'adapter-5v-3a' }, null) }),
  fc.record({
    edit: fc.constant('add-part' as const),
    part: fc.record({ id: fc.constantFrom('scale', 'fresh', 'newer'), type: fc.constant('oled-i2c'), name: text }),
  }),
  fc.record({ edit: fc.constant('remove-part' as const), id: partId }),
  fc.record({ edit: fc.constant('rename-part' as const), id: partId, name: text }),
  fc.record({ edit: fc.constant('note-part' as const), id: partId, notes: text }),
  fc.record({ edit: fc.constant('set-option' as const), id: partId, option: fc.constant('address'), value: text }),
  fc.record({ edit: fc.constant('set-loads' as const), id: partId, loads: fc.constant([] as never[]) }),
  fc.record({ edit: fc.constant('assign' as const), terminal,
    to: fc.record({ position: fc.integer({ min: 1, max: 40 }) }) }),
  fc.record({ edit: fc.constant('release' as const), terminal }),
  fc.record({ edit: fc.constant('fix' as const), terminal, fixed: fc.boolean() }),
  fc.record({
    edit: fc.constant('place' as const),
    assignments: fc.dictionary(terminal, fc.record({ position: fc.integer({ min: 1, max: 40 }) })),
  }),
  fc.record({ edit: fc.constant('set-between' as const), terminal,
    between: fc.constantFrom({ kind: 'mosfet' as const }, null) }),
  fc.record({ edit: fc.constant('reserve' as const), position: fc.integer({ min: 1, max: 40 }), reason: text }),
  fc.record({ edit: fc.constant('unreserve' as const), position: fc.integer({ min: 1, max: 40 }) }),
  fc.record({
    edit: fc.constant('set-limit' as const), key: fc.constant('board.lineMaxMa'),
    value: fc.option(fc.integer({ min: 1, max: 99 })),
  }),
  fc.record({
    edit: fc.constant('choose-circuit' as const), controller: fc.constant('uart0'),
    variant: fc.constantFrom('full', 'small', null),
  }),
  fc.record({ edit: fc.constant('set-clock' as const), bus: fc.constantFrom('i2c1', 'scale'),
    clockHz: fc.constantFrom(400_000, null) }),
  fc.record({
    edit: fc.constant('set-software-buses' as const),
    buses: fc.array(fc.constant({ id: 'i2c-soft-1', sda: 29, scl: 31 }), { maxLength: 1 }),
  }),
  fc.record({ edit: fc.constant('set-stack' as const), stack: fc.subarray(['scale', 'panel', 'labels']) }),
  fc.record({
    edit: fc.constant('set-weight' as const), weight: fc.constantFrom('apart', 'moved'),
    value: fc.option(fc.integer({ min: 0, max: 99 })),
  }),
  fc.constantFrom(...[...catalogue.parts.values()].slice(0, 5)).map(part => ({ edit: 'keep-own-part' as const, part })),
  fc.constantFrom(...catalogue.boards.values()).map(board => ({ edit: 'keep-own-board' as const, board })),
  fc.record({
    edit: fc.constant('drop-own' as const), kind: fc.constantFrom('parts' as const, 'boards' as const),
    id: fc.constantFrom('early-26', 'air-quality-i2c', 'none'),
  }),
  fc.record({
    edit: fc.constant('add-node' as const),
    node: fc.record({ id: nodeId, type: fc.constant('fuse-1000'), name: text,
      from: fc.constantFrom('@cable', 'fuse', null) }),
    before: fc.constantFrom('@socket', 'modem.vcc', 'fuse', 'switch'),
  }),
  fc.record({ edit: fc.constant('remove-node' as const), id: nodeId }),
  fc.record({ edit: fc.constant('edit-node' as const), id: nodeId, changes: fc.record({ name: text }) }),
  fc.record({
    edit: fc.constant('set-figure' as const), node: fc.constantFrom('fuse', '@cable', 'nobody'),
    figure: fc.constantFrom('ohm', 'awg'),
    value: fc.option(fc.integer({ min: 1, max: 30 })),
  }),
  fc.record({
    edit: fc.constant('feed' as const), consumer: fc.constantFrom('@socket', 'panel.usb', 'fuse'),
    from: fc.constantFrom('@cable', null, { usual: true as const }),
  }),
  fc.record({
    edit: fc.constantFrom('join' as const, 'unjoin' as const),
    join: fc.record({ from: fc.constantFrom('fuse', '@supply'), into: fc.constantFrom('panel.usb', '@5V') }),
  }),
  fc.record({
    edit: fc.constant('set-power' as const),
    power: fc.constantFrom({ shutdownS: 20 }, { clock: { coreMhz: 600, voltageSteps: -2 } }),
  }),
  fc.record({
    edit: fc.constant('keep-arrangement' as const),
    arrangement: fc.record({
      id: fc.constantFrom('a', 'b'), name: text, supply: fc.constantFrom(null, { type: 'adapter-5v-3a' }),
      nodes: fc.constant([] as never[]), feeds: fc.constant({}), joins: fc.constant([] as never[]),
      figures: fc.constant({}),
    }),
  }),
  fc.record({
    edit: fc.constantFrom('take-arrangement' as const, 'drop-arrangement' as const),
    id: fc.constantFrom('a', 'one-adapter', 'none'),
  }),
  fc.record({
    edit: fc.constant('keep-worksheet' as const),
    kept: fc.record({
      id: fc.constantFrom('w1', 'w2'), keptAt: fc.constant('2026-01-01T00:00:00.000Z'), what: text,
      sheet: fc.constant({ kind: 'wire' }),
    }),
  }),
  fc.record({ edit: fc.constant('drop-worksheet' as const), id: fc.constantFrom('w1', 'none') }),
  fc.record({ edit: fc.constant('set-boot' as const), boot: fc.option(fc.record({ text })) }),
  fc.record({
    edit: fc.constant('wire-done' as const), wire: text, done: fc.boolean(),
    seconds: fc.option(fc.integer({ min: 0, max: 900 }), { nil: undefined }) }),
  fc.record({
    edit: fc.constant('colour-rule' as const), carries: fc.constantFrom(...CARRIES_IDS),
    colour: fc.option(fc.constantFrom('pink', 'red')),
  }),
  fc.record({ edit: fc.constant('order-steps' as const), order: fc.array(text, { maxLength: 3 }) }),
  fc.record({
    edit: fc.constant('set-flat-cables' as const), flat: fc.uniqueArray(fc.record({
      id: fc.constantFrom('a', 'b'), name: text, apartMm: fc.constantFrom(10, 80), one: flatEnd, two: flatEnd,
    }), { maxLength: 2, selector: ({ id }) => id }),
  }),
  fc.record({
    edit: fc.constant('set-mount' as const), mount: fc.option(fc.record({
      thread: fc.constantFrom('M2.5' as const, 'M3' as const), plateMm: fc.constantFrom(1, 3),
      underMm: fc.constantFrom(0, 4),
      washers: fc.boolean(),
    })),
  }),
  fc.record({ edit: fc.constant('set-spacers' as const), on: fc.boolean() }),
  fc.record({
    edit: fc.constant('place-body' as const), id: partId, place: fc.option(fc.record({
      on: fc.constantFrom('table' as const, 'lid' as const), xMm: fc.constantFrom(0, 90), turned: fc.boolean(),
    })),
  }),
  fc.record({
    edit: fc.constant('measure' as const), id: fc.oneof(partId, fc.constant('@board')), sizes: fc.option(fc.record({
      aboveMm: fc.constantFrom(3, 40), lidMm: fc.constantFrom(5, 60) })),
  }),
  fc.record({
    edit: fc.constant('set-step-rules' as const),
    rules: fc.array(fc.record({ first: text, then: text, why: text }), { maxLength: 2 }),
  }),
  fc.record({ edit: fc.constant('dress-wire' as const), terminal, colour: fc.constant('blue') }),
  fc.record({
    edit: fc.constant('keep-scan' as const),
    scan: fc.record({ id: text, bus: fc.constant('i2c1'), text, takenAt: fc.constant('2026-01-01T00:00:00.000Z') }),
  }),
  fc.record({
    edit: fc.constant('see' as const), id: fc.oneof(text, fc.constant('lamps')),
    sighting: fc.option(fc.record({ outcome: fc.constant('none'), at: fc.constant('2026-01-01T00:00:00.000Z') })),
  }),
  fc.record({ edit: fc.constant('drop-scan' as const), id: fc.constantFrom('s1', 'none') }),
  fc.record({
    edit: fc.constant('log' as const),
    entry: fc.record({ id: text, at: fc.constant('2026-01-01T00:00:00.000Z'), stage: fc.constant('build' as const),
      text }).chain(entry =>
      fc.constantFrom(entry, { ...entry, photos: [{ id: 'p-1', widthPx: 1280, heightPx: 960 }] })),
  }),
  fc.record({ edit: fc.constant('unlog' as const), id: fc.constantFrom('l1', 'none') }),
)
