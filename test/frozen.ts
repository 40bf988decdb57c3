/**
 * A small catalogue that stays as it is, for texts that are compared word for word: a new part or figure of the shipped
 * one changes none of them. It is renewed only when the shape of the catalogue's files changes.
 */
import type { Board, Catalogue, Part, PowerItem, SupplyUnit } from '../core/catalogue/types'
import { applyEdit, type Edit } from '../core/plan/edits'
import type { Plan } from '../core/plan/types'
import { placementEdits, placePlan } from '../core/placement/place'
import data from './unit/overlays/frozen-catalogue.json'
import { fixedAt, planOf } from './plans'

const byId = <T extends { id: string }>(entries: unknown) => new Map((entries as T[]).map(entry => [entry.id, entry]))

export const frozen: Catalogue = {
  boards: byId<Board>(data.boards), parts: byId<Part>(data.parts), supplies: byId<SupplyUnit>(data.supplies),
  powerItems: byId<PowerItem>(data.power),
}

const changed = (plan: Plan, edits: Edit[]): Plan => applyEdit(plan, { edit: 'all', edits }).plan
/** With all that has no place yet placed. */
function settled(plan: Plan): Plan {
  const result = placePlan(plan, frozen, { scope: 'rest' })
  if (!result.ok) throw new Error(result.sentence)
  return changed(plan, placementEdits(plan, result))
}

const FILE = 'dtparam=audio=on\ngpio=17=op,dh\n[pi0]\ndtoverlay=w1-gpoi\n[all]\n'

/** Plans as makers have them, right and wrong, by what they are about. */
export const HAND_PICKED: Readonly<Record<string, Plan>> = {
  'air and a screen on one bus': settled(planOf('forty-usb-c', { air: 'pressure-humidity-i2c', screen: 'oled-i2c' })),
  'a 5 V echo straight into a GPIO': planOf('forty-usb-c', { tank: 'distance-echo-5v' }, {
    assignments: fixedAt({ 'tank.vcc': 2, 'tank.gnd': 6, 'tank.trig': 16, 'tank.echo': 18 }),
  }),
  'one pin claimed twice': planOf('forty-usb-c', { bell: 'button-1', lamp: 'led-plain' }, {
    assignments: fixedAt({ 'bell.b': 11, 'lamp.a': 11 }),
  }),
  'a screen, a servo, a strip and lines behind an expander': settled(planOf(
    'forty-usb-c', {
      screen: 'screen-spi-24', arm: 'servo-small', shelf: 'strip-addressable', more: 'expander-8-i2c',
      pump: 'relay-board-1',
    },
  )),
  'an instrument with RS-232 levels': planOf('forty-usb-c', { meter: 'instrument-rs232' }, {
    assignments: fixedAt({ 'meter.tx': 10, 'meter.rx': 8, 'meter.gnd': 6 }),
  }),
  'the early board with probes, from a weak adapter': settled(planOf(
    'early-26', { brood: ['probe-onewire', { count: '3' }], arm: 'servo-small' },
    { supply: { type: 'adapter-5v-1a2' } },
  )),
  '12 V through a fuse and a converter': changed(
    settled(planOf('forty-usb-c', { lamp: 'led-plain' }, { supply: { type: 'adapter-12v-2a' } })), [
      { edit: 'add-node', node: { id: 'fuse', type: 'fuse-2000', name: 'Fuse', from: '@cable' }, before: '@socket' },
      { edit: 'add-node', node: { id: 'buck', type: 'step-down-5v-3a', name: 'Step-down', from: 'fuse' },
        before: '@socket' },
    ],
  ),
  'two supplies on one rail': changed(planOf('forty-usb-c', { lamp: 'led-plain' }), [
    { edit: 'add-node', node: { id: 'second', type: 'usb-c-3a', name: 'Second adapter' } },
    { edit: 'join', join: { from: 'second', into: '@5V' } },
  ]),
  'a file with lines by hand': settled(planOf('forty-usb-c', { brood: 'probe-onewire', bell: 'button-1' },
    { boot: { text: FILE } })),
  'a panel on video and USB': settled(planOf('forty-usb-c', { panel: 'panel-video-7' })),
}
