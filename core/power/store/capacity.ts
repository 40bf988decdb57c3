/**
 * What a store of energy really gives: by temperature, by how far it may be emptied, by the voltage its
 * converter still takes.
 */
import type { SupplyUnit } from '../../catalogue/types'

type Chemistry = NonNullable<SupplyUnit['chemistry']>

/** Part of the capacity that is there at a temperature. Memory; straight lines between. */
const BY_TEMPERATURE: Readonly<Record<Chemistry, readonly (readonly [celsius: number, share: number])[]>> = {
  lithium: [[-20, 0.5], [-10, 0.7], [0, 0.84], [10, 0.94], [20, 1], [45, 1]],
  lead: [[-20, 0.5], [-10, 0.65], [0, 0.78], [10, 0.9], [20, 1], [40, 1.05]],
}

/** Rest voltage of one cell by how full it is. Memory. */
const REST_V: Readonly<Record<Chemistry, readonly (readonly [share: number, voltageV: number])[]>> = {
  lithium: [[0, 3], [0.05, 3.35], [0.1, 3.5], [0.2, 3.62], [0.5, 3.75], [0.8, 3.97], [1, 4.2]],
  lead: [[0, 1.93], [0.2, 1.98], [0.5, 2.04], [0.8, 2.09], [1, 2.13]],
}

/** On a line through points; outside them the nearest. */
export function along(points: readonly (readonly [number, number])[], x: number): number {
  const after = points.findIndex(([at]) => at >= x)
  if (after === 0) return points[0]![1]
  if (after < 0) return points.at(-1)![1]
  const [x0, y0] = points[after - 1]!
  const [x1, y1] = points[after]!
  return y0 + (y1 - y0) * (x - x0) / (x1 - x0)
}

export const temperatureShare = (chemistry: Chemistry,
  temperatureC: number): number => along(BY_TEMPERATURE[chemistry], temperatureC)

/** Cells in series by the voltage of the full pack. */
export const cellsInSeries = (chemistry: Chemistry,
  fullV: number): number => Math.max(1, Math.round(fullV / (chemistry === 'lithium'
  ? 4.2
  : 2.13)))

/** Rest voltage of a pack at a state of charge, 0 to 1. */
export const restV = (chemistry: Chemistry, cells: number,
  share: number): number => cells * along(REST_V[chemistry], share)

export interface CapacityTask {
  unit: SupplyUnit
  capacityMah: number
  temperatureC: number
  /** Drawn from the store itself, for the sag at its end. */
  currentMa: number
  /** Voltage below which what hangs on it stops; 0 where nothing does. */
  leastV: number
}

export interface Capacity {
  /** As printed on it: mAh × the voltage the mAh count at. */
  printedWh: number
  temperatureShare: number
  /** Part left in it: by its own cut-off, by the converter's, or by what it may be emptied to. */
  leftShare: number
  usableWh: number
}

/** mAh × V, less what the cold takes, less what stays in it. */
export function capacityOf({ unit, capacityMah, temperatureC, currentMa, leastV }: CapacityTask): Capacity {
  const chemistry = unit.chemistry ?? 'lithium'
  const printedWh = capacityMah / 1000 * (unit.cellV ?? unit.voltageV)
  const byCold = temperatureShare(chemistry, temperatureC)
  const leftShare = Math.max(1 - (unit.usableShare ?? 1), leftByCutOff(unit, chemistry, currentMa, leastV))
  return { printedWh, temperatureShare: byCold, leftShare, usableWh: printedWh * byCold * (1 - leftShare) }
}

/**
 * How full a pack still is when its loaded voltage reaches the cut-off. Zero for a bank that regulates its own output.
 */
function leftByCutOff({ fullV, emptyV, ohm }: SupplyUnit, chemistry: Chemistry, currentMa: number,
  leastV: number): number {
  if (fullV === undefined || emptyV === undefined) return 0
  const cells = cellsInSeries(chemistry, fullV)
  const cutV = Math.max(leastV, 0) + (ohm ?? 0) * currentMa / 1000
  if (cutV <= restV(chemistry, cells, 0)) return 0
  for (let step = 0; step <= 200; step++) {
    if (restV(chemistry, cells, step / 200) >= cutV) return step / 200
  }
  return 1
}
