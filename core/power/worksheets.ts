/**
 * Worksheets of the supply, and the figures each starts from. With `node` it belongs to a node of the
 * plan's power tree.
 */
export type PowerWorksheet
  = | {
    kind: 'wire'
    node?: string
    supplyV: number
    currentMa: number
    lengthM: number
    leastV: number
    awg: number
    bundledPairs: number
    contactOhm: number
  }
  | {
    kind: 'fuse'
    node?: string
    steadyMa: number
    surgeMa: number
    shortMa: number
    wireAwg: number
    surgeS?: number
    temperatureC?: number
  }
  | {
    kind: 'rectifier'
    node?: string
    acV: number
    dropV: number
    currentMa: number
    hz: number
    capacitanceUf: number
    wantedV: number
    /** Of transformer, leads and bridge; 0 or nothing: a stiff source. */
    sourceOhm?: number
  }
  | {
    kind: 'step-down'
    node?: string
    inputV: number
    outputV: number
    currentMa: number
    headroomV: number
    efficiency: number
    ambientC: number
    kw: number
    hottestC: number
  }
  | { kind: 'hold-up', node?: string, capacitanceF: number, fromV: number, toV: number, powerW: number, wantedS: number, ohm?: number }
  | {
    kind: 'battery'
    node?: string
    capacityMah: number
    cellV: number
    efficiency: number
    powerW: number
    temperatureC: number
    chemistry: 'lithium'
      | 'lead'
    leftShare: number
    hoursAsked: number
  }
  | { kind: 'heat', node?: string, powerW: number, ambientC: number, kw: number, storeJk: number, limitC: number }

/** Starting figures where no finding gives any. */
export const USUAL_POWER_WORKSHEETS: Readonly<{ [Kind in PowerWorksheet['kind']]: Extract<PowerWorksheet, { kind: Kind }> }> = {
  'wire': { kind: 'wire', supplyV: 5.1, currentMa: 2000, lengthM: 1, leastV: 4.75, awg: 24, bundledPairs: 1,
    contactOhm: 0.03 },
  'fuse': { kind: 'fuse', steadyMa: 1200, surgeMa: 2500, shortMa: 10_000, wireAwg: 20, surgeS: 0.01, temperatureC: 23 },
  'rectifier': { kind: 'rectifier', acV: 9, dropV: 1.4, currentMa: 600, hz: 50, capacitanceUf: 4700, wantedV: 6.5,
    sourceOhm: 0 },
  'step-down': {
    kind: 'step-down', inputV: 12, outputV: 5, currentMa: 1000, headroomV: 1, efficiency: 0.88, ambientC: 30, kw: 25,
    hottestC: 105,
  },
  'hold-up': { kind: 'hold-up', capacitanceF: 10, fromV: 5, toV: 4.63, powerW: 2, wantedS: 12, ohm: 0 },
  'battery': {
    kind: 'battery', capacityMah: 12_000, cellV: 3.7, efficiency: 0.85, powerW: 3.77, temperatureC: 20,
    chemistry: 'lithium', leftShare: 0,
    hoursAsked: 10,
  },
  'heat': { kind: 'heat', powerW: 4, ambientC: 25, kw: 12, storeJk: 30, limitC: 80 },
}

export const POWER_WORKSHEET_NAMES: Readonly<Record<PowerWorksheet['kind'], string>> = {
  'wire': 'Wire', 'fuse': 'Fuse', 'rectifier': 'Rectifier', 'step-down': 'Step-down', 'hold-up': 'Hold-up',
  'battery': 'Battery',
  'heat': 'Heat',
}
