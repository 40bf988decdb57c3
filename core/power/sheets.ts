/** The worksheets of the supply worked out: fields to fill, and rows of what they come to. */
import { choiceField, numberField as field, type SheetField, type SheetRow } from '../worksheets/fields'
import { areaMm2, GAUGES, milliohmPerM, thinnestGauge, wireFigures, wireMostMa } from '../netlist/copper'
import {
  ADAPTER_OVERLOAD, blowsWithinS, carriesForS, fittingFuseMa, FUSES_MA, GONE_WITHIN_S, STEADY_SHARE, warmShare,
} from './front/fuse'
import { USUAL_SURGE_S } from '../netlist/supply/figures'
import { CAPACITORS_UF, rectifierFigures, stepDownInputMa } from './front/rectifier'
import { settledWave } from './front/waveform'
import { capacitorForF, capacitorHoldS, gateHoldS } from './front/hold'
import { packHours } from './store/hours'
import { temperatureShare } from './store/capacity'
import { secondsTo } from './heat/run'
import { heatWithFigure } from '../facts/heat'
import type { Facts } from '../facts/types'
import type { PowerEdit } from '../plan/power-edits'
import type { PowerWorksheet } from './worksheets'

export const SHEET_FIELDS: Readonly<Record<PowerWorksheet['kind'], readonly SheetField[]>> = {
  'wire': [
    field('supplyV', 'At its beginning', 'V'), field('currentMa', 'Current', 'mA'),
    field('lengthM', 'Length, one way', 'm'),
    field('awg', 'Gauge', 'AWG', 0, true), field('leastV', 'Least at the load', 'V'),
    field('bundledPairs', 'Pairs in the bundle', '', 1, true), field('contactOhm', 'Plugs and joints', 'Ω', 0, true),
  ],
  'fuse': [
    field('steadyMa', 'Flows at most', 'mA'), field('surgeMa', 'At start-up', 'mA', 0, true),
    field('shortMa', 'In a short', 'mA'),
    field('wireAwg', 'Thinnest wire behind it', 'AWG', 0, true), field('surgeS', 'Start-up lasts', 's', 0, true),
    field('temperatureC', 'Air around it', '°C', -60, true),
  ],
  'rectifier': [
    field('acV', 'Transformer without load', 'V rms'), field('dropV', 'Both diodes', 'V', 0, true),
    field('currentMa', 'Current', 'mA'),
    field('hz', 'Mains', 'Hz'), field('capacitanceUf', 'Capacitor', 'µF'),
    field('wantedV', 'Step-down wants', 'V', 0, true),
    field('sourceOhm', 'Winding and leads', 'Ω', 0, true),
  ],
  'step-down': [
    field('inputV', 'Input', 'V'), field('outputV', 'Output', 'V'), field('currentMa', 'Current out', 'mA'),
    field('headroomV', 'Wants above it', 'V', 0, true), field('efficiency', 'Efficiency', '0–1'),
    field('ambientC', 'Air', '°C', -60, true),
    field('kw', 'Warms by', 'K/W'), field('hottestC', 'Hottest', '°C'),
  ],
  'hold-up': [
    field('capacitanceF', 'Capacitor', 'F'), field('fromV', 'From', 'V'), field('toV', 'Down to', 'V'),
    field('powerW', 'Power', 'W'),
    field('wantedS', 'Shutdown takes', 's'), field('ohm', 'Its series resistance', 'Ω', 0, true),
  ],
  'battery': [
    field('capacityMah', 'Capacity', 'mAh'), field('cellV', 'Counts at', 'V'), field('efficiency', 'Converter', '0–1'),
    field('powerW', 'Drawn', 'W'), field('temperatureC', 'Temperature', '°C', -60, true),
    field('leftShare', 'Left in it', '0–1', 0, true),
    field('hoursAsked', 'Asked', 'h'), choiceField('chemistry', 'Cells', [['lithium', 'lithium'], ['lead', 'lead']]),
  ],
  'heat': [
    field('powerW', 'Heat', 'W'), field('ambientC', 'Air', '°C', -60, true), field('kw', 'Warms by', 'K/W'),
    field('storeJk', 'Stores', 'J/K'), field('limitC', 'Limit', '°C'),
  ],
}

const ampere = (ma: number) => ma >= 1000 ? `${(ma / 1000).toFixed(2)} A` : `${Math.round(ma)} mA`
const volt = (v: number) => `${v.toFixed(2)} V`
const watt = (w: number) => w >= 1 ? `${w.toFixed(2)} W` : `${(w * 1000).toFixed(0)} mW`
const time = (s: number) => {
  if (s === Infinity) return 'never'
  if (s >= 3600) return `${(s / 3600).toFixed(1)} h`
  return s >= 120
    ? `${(s / 60).toFixed(1)} min`
    : `${s < 10 ? s.toFixed(2) : s.toFixed(0)} s`
}

type Of<Kind extends PowerWorksheet['kind']> = Extract<PowerWorksheet, { kind: Kind }>

/** What a worksheet comes to. Pure; never throws for figures above their least. */
export function sheetRows(sheet: PowerWorksheet): SheetRow[] {
  switch (sheet.kind) {
    case 'wire': return wireRows(sheet)
    case 'fuse': return fuseRows(sheet)
    case 'rectifier': return rectifierRows(sheet)
    case 'step-down': return stepDownRows(sheet)
    case 'hold-up': return holdRows(sheet)
    case 'battery': return batteryRows(sheet)
    case 'heat': return heatRows(sheet)
  }
}

function wireRows(sheet: Of<'wire'>): SheetRow[] {
  const { ohm, dropV, loadV, lossMw, maxMa } = wireFigures(sheet.awg, sheet)
  const thinnest = thinnestGauge(sheet)
  return [
    {
      label: 'one conductor', value: `${milliohmPerM(sheet.awg).toFixed(2)} mΩ/m`,
      limit: `${areaMm2(sheet.awg).toFixed(3)} mm²`,
      origin: 'published: ASTM B258, IEC 60028',
    },
    { label: 'there and back', value: `${(ohm * 1000).toFixed(0)} mΩ`, origin: 'arithmetic' },
    { label: 'lost on the way', value: volt(dropV), limit: watt(lossMw / 1000), origin: 'arithmetic' },
    {
      label: 'at the load', value: volt(loadV), limit: `${volt(sheet.leastV)} at least`, holds: loadV >= sheet.leastV,
      origin: 'arithmetic',
    },
    {
      label: 'current', value: ampere(sheet.currentMa), limit: `stands ${ampere(maxMa)}`,
      holds: sheet.currentMa <= maxMa,
      origin: 'practice: 10 A per mm², less in a bundle',
    },
    {
      label: 'thinnest that does', value: thinnest === null ? 'none' : `${thinnest} AWG`,
      limit: thinnest === null
        ? `none of ${GAUGES.length} gauges: shorten it, or take a higher voltage`
        : volt(wireFigures(thinnest, sheet).loadV),
      holds: thinnest !== null, origin: 'arithmetic',
    },
  ]
}

function fuseRows({ steadyMa, surgeMa, shortMa, wireAwg, surgeS = USUAL_SURGE_S,
  temperatureC = 23 }: Of<'fuse'>): SheetRow[] {
  const wire = wireMostMa(wireAwg)
  const warm = warmShare('fuse', temperatureC)
  const fitting = fittingFuseMa({ steadyMa, surgeMa, surgeS, shortMa, temperatureC, wireMa: wire })
  const rated = fitting ?? FUSES_MA.find(ma => steadyMa <= STEADY_SHARE * ma * warm) ?? FUSES_MA.at(-1)!
  const carries = carriesForS(rated * warm, surgeMa)
  const blows = blowsWithinS(rated, shortMa)
  return [
    {
      label: 'take', value: fitting === null ? 'none fits' : ampere(fitting),
      limit: fitting === null
        ? `none carries ${ampere(steadyMa)}, spares the wire and blows at ${ampere(shortMa)}`
        : 'quick',
      holds: fitting !== null, origin: 'published: IEC 60127-2, from memory',
    },
    {
      label: 'carries', value: ampere(steadyMa),
      limit: `${Math.round(STEADY_SHARE * 100)} % of `
        + `${ampere(rated * warm)}${warm === 1 ? '' : ` at ${temperatureC} °C`}`,
      holds: steadyMa <= STEADY_SHARE * rated * warm, origin: 'practice',
    },
    {
      label: 'start-up', value: `${ampere(surgeMa)} for ${time(surgeS)}`, limit: `it carries that ${time(carries)}`,
      holds: carries >= surgeS, origin: 'published: IEC 60127-2, from memory',
    },
    {
      label: 'in a short it blows within', value: time(blows),
      limit: `${ampere(shortMa)}; an adapter gives about ${ADAPTER_OVERLOAD} × its rating`,
      holds: blows <= GONE_WITHIN_S,
      origin: 'published: IEC 60127-2, from memory',
    },
    { label: 'wire behind it stands', value: ampere(wire), limit: `more than ${ampere(rated)}`, holds: wire >= rated,
      origin: 'practice' },
  ]
}

function rectifierRows(sheet: Of<'rectifier'>): SheetRow[] {
  const { peakV, rippleV, leastV, meanV } = rectifierFigures(sheet)
  const ohm = sheet.sourceOhm ?? 0
  const emf = { emfV: sheet.acV, ohm, dropV: sheet.dropV, hz: sheet.hz }
  const wave = ohm > 0
    ? settledWave({ ...emf, capacitanceUf: sheet.capacitanceUf }, { currentMa: sheet.currentMa })
    : null
  const valleyWith = (uf: number) => ohm > 0
    ? settledWave({ ...emf, capacitanceUf: uf }, { currentMa: sheet.currentMa }).valleyV
    : rectifierFigures({ ...sheet, capacitanceUf: uf }).leastV
  const onSale = CAPACITORS_UF.find(uf => valleyWith(uf) >= sheet.wantedV)
  const stiff = ohm > 0 ? ', a stiff source' : ''
  const valleyV = wave?.valleyV ?? leastV
  return [
    { label: 'peak', value: volt(wave?.peakV ?? peakV), limit: `U·√2 − diodes: ${volt(peakV)}${stiff}`,
      origin: 'textbook' },
    {
      label: 'ripple', value: volt(wave ? wave.peakV - wave.valleyV : rippleV), limit: `I ÷ (2·f·C): ${volt(rippleV)}`,
      origin: 'textbook',
    },
    { label: 'valley', value: volt(valleyV), limit: `${volt(sheet.wantedV)} at least`, holds: valleyV >= sheet.wantedV,
      origin: 'textbook' },
    { label: 'mean', value: volt(wave?.meanV ?? meanV), origin: 'textbook' },
    ...wave
      ? [{
          label: 'in the transformer', value: `${ampere(wave.acRmsMa)} rms`,
          limit: `in pulses of ${ampere(wave.pulseMa)}`,
          origin: 'textbook',
        }]
      : [],
    {
      label: 'capacitor for it', value: onSale ? `${onSale} µF` : 'none',
      limit: onSale ? `${volt(valleyWith(onSale))} in the valley` : 'take a higher transformer voltage',
      holds: onSale !== undefined,
      origin: 'textbook',
    },
    {
      label: 'capacitor stands', value: `${Math.ceil((sheet.acV * Math.SQRT2 - sheet.dropV) * 1.2)} V or more`,
      limit: 'without load, 20 % to spare', origin: 'practice',
    },
  ]
}

function stepDownRows({ inputV, outputV, currentMa, headroomV, efficiency, ambientC, kw,
  hottestC }: Of<'step-down'>): SheetRow[] {
  const powerW = outputV * currentMa / 1000
  const eta = Math.min(1, efficiency)
  const inMa = stepDownInputMa(powerW, eta, inputV)
  const lossW = powerW / eta - powerW
  const linearW = Math.max(0, inputV - outputV) * currentMa / 1000
  return [
    {
      label: 'least input', value: volt(outputV + headroomV), limit: `${volt(inputV)} come`,
      holds: inputV >= outputV + headroomV,
      origin: 'arithmetic',
    },
    {
      label: 'takes in', value: ampere(inMa),
      limit: `${ampere(stepDownInputMa(powerW, eta, inputV * 0.8))} when the input falls by a fifth`,
      origin: 'textbook: I = P ÷ (η·U)',
    },
    {
      label: 'heat', value: watt(lossW), limit: `${Math.round(ambientC + lossW * kw)} °C of ${hottestC} °C`,
      holds: ambientC + lossW * kw <= hottestC, origin: 'textbook: T = Ta + P·R',
    },
    {
      label: 'a linear one would heat by', value: watt(linearW), limit: `${Math.round(ambientC + linearW * kw)} °C`,
      holds: ambientC + linearW * kw <= hottestC, origin: 'arithmetic',
    },
  ]
}

function holdRows({ capacitanceF, fromV, toV, powerW, wantedS, ohm = 0 }: Of<'hold-up'>): SheetRow[] {
  const holds = capacitorHoldS(capacitanceF, fromV, toV, powerW, ohm)
  const needed = capacitorForF(wantedS, fromV, toV, powerW, ohm)
  return [
    {
      label: 'holds', value: time(holds), limit: `${time(wantedS)} are wanted`, holds: holds >= wantedS,
      origin: ohm > 0 ? 'textbook: constant power through a series resistance' : 'textbook: C·(U0² − U1²) ÷ (2·P)',
    },
    {
      label: 'capacitor for it',
      value: needed === null ? 'none' : `${needed < 0.01 ? `${Math.ceil(needed * 1e6)} µF` : `${needed.toFixed(2)} F`}`,
      limit: needed === null ? 'the end lies above the beginning' : undefined, holds: needed !== null,
      origin: 'textbook',
    },
    {
      label: 'latch held by 1 MΩ and 10 µF', value: time(gateHoldS(1e6, 10e-6, fromV, 1.5)),
      limit: 'gate lets go at 1.5 V',
      origin: 'textbook: R·C·ln(U0 ÷ Uth)',
    },
  ]
}

function batteryRows(
  { capacityMah, cellV, efficiency, powerW, temperatureC, chemistry, leftShare, hoursAsked }: Of<'battery'>,
): SheetRow[] {
  const cold = temperatureShare(chemistry, temperatureC)
  const share = cold * (1 - Math.min(1, leftShare))
  const full = packHours(capacityMah, cellV, efficiency, powerW)
  const hours = full * share
  return [
    { label: 'printed', value: `${(capacityMah / 1000 * cellV).toFixed(1)} Wh`, origin: 'arithmetic' },
    { label: 'at this temperature', value: `${Math.round(cold * 100)} %`, limit: `${chemistry}, ${temperatureC} °C`,
      origin: 'memory' },
    { label: 'usable at the output', value: `${(capacityMah / 1000 * cellV * efficiency * share).toFixed(1)} Wh`,
      origin: 'practice' },
    {
      label: 'lasts', value: `${hours.toFixed(1)} h`, limit: `${hoursAsked} h are asked`, holds: hours >= hoursAsked,
      origin: 'practice: mAh × V × η ÷ P',
    },
    {
      label: 'capacity for it', value: `${Math.ceil(capacityMah * hoursAsked / Math.max(1e-9, hours) / 100) * 100} mAh`,
      origin: 'arithmetic',
    },
    { label: 'power for it', value: watt(powerW * hours / hoursAsked), origin: 'arithmetic' },
  ]
}

function heatRows({ powerW, ambientC, kw, storeJk, limitC }: Of<'heat'>): SheetRow[] {
  const steady = ambientC + powerW * kw
  return [
    {
      label: 'ends at', value: `${steady.toFixed(1)} °C`, limit: `${limitC} °C at most`, holds: steady <= limitC,
      origin: 'textbook: T = Ta + P·R',
    },
    { label: 'time constant', value: time(kw * storeJk), limit: 'R·C', origin: 'textbook' },
    {
      label: 'passes the limit after', value: time(secondsTo(ambientC, steady, limitC, kw, storeJk)),
      limit: 'from cold',
      origin: 'textbook',
    },
    { label: 'cooler for it', value: limitC > ambientC
      ? `${((limitC - ambientC) / powerW).toFixed(1)} K/W or less`
      : 'none', origin: 'arithmetic' },
  ]
}

/**
 * What using a worksheet changes: the node it is about, and the edits; null where it belongs to none or has no figure
 * to carry over.
 */
export function sheetUse(sheet: PowerWorksheet,
  facts: Pick<Facts, 'plan' | 'heat'>): { node: string, edits: PowerEdit[] } | null {
  if (!('node' in sheet) || !sheet.node) return null
  const { node } = sheet
  const set = (figures: Record<string, number>) => ({
    node, edits: Object.entries(figures)
      .map(([figure, value]): PowerEdit => ({ edit: 'set-figure', node, figure, value })),
  })
  switch (sheet.kind) {
    case 'wire': return set({ awg: sheet.awg, lengthM: sheet.lengthM })
    case 'fuse': {
      const ratedMa = fittingFuseMa({ ...sheet, surgeS: sheet.surgeS ?? USUAL_SURGE_S,
        wireMa: wireMostMa(sheet.wireAwg) })
      return ratedMa === null ? null : set({ ratedMa })
    }
    case 'rectifier': return set({ capacitanceUf: sheet.capacitanceUf })
    case 'hold-up': return set({ capacitanceF: sheet.capacitanceF })
    case 'battery': return set({ capacityMah: sheet.capacityMah })
    case 'step-down': return set({ rthKw: sheet.kw })
    case 'heat': return { node,
      edits: [{ edit: 'set-power', power: { heat: heatWithFigure(facts, { coolerKw: sheet.kw }) } }] }
  }
}
