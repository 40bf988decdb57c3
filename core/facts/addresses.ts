/** Who hears whom on I²C. */
import type { Facts, I2cDevice } from './types'

/**
 * True when devices on the two buses answer to the same master transaction: the same bus, or a hub's channel and the
 * bus above it. Two channels of one hub do not hear each other as long as one channel is open at a time.
 */
export function sharesBus(facts: Facts, a: string | null, b: string | null): boolean {
  if (!a || !b) return false
  return a === b || above(facts, a).includes(b) || above(facts, b).includes(a)
}

function above(facts: Facts, busId: string): string[] {
  const found: string[] = []
  let bus = facts.buses.find(entry => entry.id === busId)
  while (bus?.upstream && !found.includes(bus.upstream)) {
    found.push(bus.upstream)
    bus = facts.buses.find(entry => entry.id === bus!.upstream)
  }
  return found
}

/**
 * The first value of the device's address option that nobody it shares a bus with answers at; null when there is none.
 */
/**
 * True when the two get in each other's way. What like parts answer at besides is meant to be common: a call to
 * all of them.
 */
export const clashes = (facts: Facts, a: I2cDevice, b: I2cDevice): boolean =>
  a.owner !== b.owner && a.address === b.address && !(a.also && b.also) && sharesBus(facts, a.busId, b.busId)

export function firstClashFreeAddress(facts: Facts, device: I2cDevice): string | null {
  const option = device.owner.part.options?.find(entry => entry.id === device.optionId)
  const others = facts.devices.filter(other =>
    other.owner !== device.owner && sharesBus(facts, device.busId, other.busId))
  return option?.values?.find(({ value }) => others.every(other => other.address !== Number(value)))?.value ?? null
}
