/** The last kept scan of each bus against what the plan expects. */
import { compareScan, hexAddress, readGrid } from '../bringup/grid'
import type { Facts, I2cDevice } from '../facts/types'
import type { Finding, Fix, Rule } from './types'

/** Parts that did not answer, and answers nobody in the plan gives. */
export const lastScans: Rule = ({ facts }) => {
  const last = new Map(facts.plan.scans.map(scan => [scan.bus, scan]))
  return [...last].flatMap(([bus, scan]): Finding[] => {
    const grid = readGrid(scan.text)
    if (!grid.ok) return []
    const devices = facts.devices.filter(device => device.busId === bus)
    const verdict = compareScan(grid.answers, grid.tested, devices.map(device => ({
      address: device.address, names: [device.owner.name], ...device.also && { optional: true as const },
    })))
    const strangers = verdict.unexpected.map(answer => answer.address)
    const silent = devices.filter(device => verdict.missing.some(entry => entry.address === device.address))
    return [
      ...silent.map(device => missing(device, bus, strangers, facts)),
      ...strangers.filter(address => !silent.some(device => strapsTo(device, address))).map((address): Finding => ({
        code: 'scan.unexpected', id: `scan.unexpected ${bus} ${address}`, severity: 'note', stages: ['bringup'],
        title: `Something answers at ${hexAddress(address)}`,
        sentence: `The last scan of ${bus} found an address that no part of the plan has. Add the part that is wired `
          + 'there, or look for a strap that is not as planned.',
        subjects: [{ busId: bus, address }],
        figures: [{ label: 'found', value: hexAddress(address), origin: 'your scan' }], fixes: [],
      })),
    ]
  })
}

function strapsTo(device: I2cDevice, address: number): string | null {
  const option = device.owner.part.options?.find(entry => entry.id === device.optionId)
  return option?.values?.find(({ value }) => Number(value) === address)?.value ?? null
}

function missing(device: I2cDevice, bus: string, strangers: number[], facts: Facts): Finding {
  const label = facts.buses.find(entry => entry.id === bus)?.label ?? bus
  const fixes = strangers.flatMap((address): Fix[] => {
    const value = strapsTo(device, address)
    return value
      ? [{
          label: `It is strapped to ${value}: plan it so`,
          edits: [{ edit: 'set-option', id: device.owner.id, option: device.optionId!, value }],
        }]
      : []
  })
  return {
    code: 'scan.missing', id: `scan.missing ${device.owner.id}`, severity: 'caution', stages: ['bringup'],
    title: `${device.owner.name} did not answer`,
    sentence: `The last scan of ${label} found nothing at ${hexAddress(device.address)}. `
      + `${fixes.length
        ? 'It answers where its other strap would put it.'
        : 'Check its supply and ground, then SDA and SCL for being swapped, then that the boot file switches the bus on.'}`,
    subjects: [{ partId: device.owner.id, busId: bus, address: device.address }],
    figures: [{ label: 'asked', value: hexAddress(device.address), origin: 'part file' }], fixes,
  }
}
