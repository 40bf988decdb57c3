/** The worksheets of signals worked out: fields to fill, and rows of what they come to. */
import type { Origin } from '../catalogue/types'
import { choiceField, numberField as field, type SheetField, type SheetRow,
  type SheetSection } from '../worksheets/fields'
import { chosenDivider, DIVIDER_MAX_MA, EDGE_SHARE, judgeDivider } from './divider'
import { ledResistor, MOSFET, mosfetStage, TRANSISTOR, transistorStage } from './drive'
import { minPullUpOhm, LOW_V, modeOf, maxPullUpOhm, reachableMode, riseTimeS } from './i2c'
import { matrixFigures, SETTLE_S, smallestMatrix } from './matrix'
import { bitsPerByte, bytesPerSecond, MAX_DIFFERENCE, partSerialRate, SAFE_ERROR, serialRate } from './rates'
import { ohmsInWords, parallelOhm, valuesBetween } from './series'
import type { SignalWorksheet } from './worksheets'

/** What of the board a worksheet goes by. */
export interface SheetContext { lineMost: { value: number, origin: Origin } }

const SERIES = choiceField('series', 'Series',
  [['E12', 'E12, ten per cent'], ['E24', 'E24, five per cent'], ['E96', 'E96, one per cent']])

/** Of the tap and what hangs on it, where nothing is said. */
const USUAL_TAP_PF = 50

export const SIGNAL_FIELDS: Readonly<Record<SignalWorksheet['kind'], readonly SheetField[]>> = {
  'pull-up': [
    field('supplyV', 'Supply', 'V'), field('clockHz', 'Clock', 'Hz'), field('capacitancePf', 'Capacitance', 'pF'),
    { is: 'list', name: 'pullUpOhms', label: 'Resistors, one beside the other', unit: 'Ω' },
  ],
  'divider': [
    field('inputV', 'Comes in', 'V'), field('mostV', 'Input stands', 'V'),
    field('leastV', 'Input reads high from', 'V', -1),
    field('bitHz', 'Bit rate', 'bit/s'), field(
      'capacitancePf', 'Capacitance at the tap', 'pF',
    ), field('mostMa', 'Most current', 'mA'), SERIES,
    { is: 'flag', name: 'ownPair', label: 'a pair of my own' },
    { ...field('upperOhm', 'Upper', 'Ω'), when: 'ownPair' }, { ...field('lowerOhm', 'Lower', 'Ω'), when: 'ownPair' },
  ],
  'led': [
    field('supplyV', 'Line or supply', 'V'), field(
      'forwardV', 'LED\'s own voltage', 'V',
    ), field('currentMa', 'Wanted current', 'mA'), SERIES,
  ],
  'serial': [
    field('baud', 'Rate', 'baud'),
    choiceField('frame', 'Frame', ['8N1', '8E1', '8O1', '7E1', '8N2'].map(frame => [frame, frame] as const)),
    field('sourceHz', 'Board\'s clock', 'Hz'),
    choiceField('divider', 'Board\'s divider',
      [['fractional-64', 'full port: steps of 1/64'], ['eighth', 'small port: ÷ 8·(n+1)']]),
    field('partHz', 'Part\'s clock, 0 if not known', 'Hz', 0, true),
    choiceField('partDivider', 'Part\'s divider', [['sixteenth', '÷ 16·(n+1)'], ['eighth', '÷ 8·(n+1)']]),
  ],
  'matrix': [
    field('keys', 'Keys wanted', ''), field('rows', 'Rows', ''), field('columns', 'Columns', ''),
    field('settleUs', 'Settling for each row', 'µs'), { is: 'flag', name: 'diodes', label: 'a diode for each key' },
  ],
  'stage': [
    field('loadMa', 'Load', 'mA'), field('loadV', 'Load\'s supply', 'V'), field('lineV', 'Line gives', 'V'),
    field('switchingHz', 'Switched how often', 'Hz', 0, true), SERIES,
    { is: 'flag', name: 'inductive', label: 'a coil or a motor' },
  ],
}

type Of<Kind extends SignalWorksheet['kind']> = Extract<SignalWorksheet, { kind: Kind }>

/** Figures that a worksheet has besides, where none was kept. */
export function withUsual(sheet: SignalWorksheet): SignalWorksheet {
  switch (sheet.kind) {
    case 'divider': {
      const { capacitancePf = USUAL_TAP_PF, mostMa = DIVIDER_MAX_MA, ownPair = false } = sheet
      const best = ownPair ? null : chosenDivider({ ...sheet, capacitancePf, mostMa })
      return {
        ...sheet, capacitancePf, mostMa, ownPair, upperOhm: sheet.upperOhm ?? best?.upperOhm ?? 1800,
        lowerOhm: sheet.lowerOhm ?? best?.lowerOhm ?? 3300,
      }
    }
    case 'serial': return { ...sheet, partDivider: sheet.partDivider ?? 'eighth' }
    case 'matrix': return { ...sheet, settleUs: sheet.settleUs ?? SETTLE_S * 1e6 }
    default: return sheet
  }
}

/** What a worksheet comes to. Pure; never throws for figures above their least. */
export function signalSections(given: SignalWorksheet, context: SheetContext): SheetSection[] {
  const sheet = withUsual(given)
  switch (sheet.kind) {
    case 'pull-up': return [{ rows: pullUpRows(sheet) }]
    case 'divider': return [{ rows: dividerRows(sheet) }]
    case 'led': return [{ rows: ledRows(sheet, context) }]
    case 'serial': return [{ rows: serialRows(sheet) }]
    case 'matrix': return [{ rows: matrixRows(sheet) }]
    case 'stage': return [
      { title: 'MOSFET', rows: mosfetRows(sheet, context) },
      { title: 'Transistor', rows: transistorRows(sheet, context) },
    ]
  }
}

function pullUpRows({ supplyV, clockHz, capacitancePf, pullUpOhms }: Of<'pull-up'>): SheetRow[] {
  const mode = modeOf(clockHz)
  const together = parallelOhm(pullUpOhms)
  const min = minPullUpOhm(supplyV, LOW_V, mode.sinkMa)
  const max = maxPullUpOhm(mode.riseS, capacitancePf)
  const reachable = Number.isFinite(together) ? reachableMode({ pullUpOhm: together, capacitancePf }) : null
  const good = min <= max ? valuesBetween('E12', min, max) : []
  return [
    { label: 'together', value: Number.isFinite(together) ? ohmsInWords(together) : 'none', limit: 'side by side',
      origin: 'arithmetic' },
    {
      label: 'least', value: ohmsInWords(min), limit: `at ${mode.sinkMa} mA`, holds: together >= min,
      origin: 'published: UM10204 §7.1',
    },
    {
      label: 'most', value: ohmsInWords(max),
      limit: `${Math.round(mode.riseS * 1e9)} ns at ${Math.round(capacitancePf)} pF`,
      holds: together <= max, origin: 'published: UM10204 §7.1',
    },
    {
      label: 'rise', value: Number.isFinite(together)
        ? `${Math.round(riseTimeS(together, capacitancePf) * 1e9)} ns`
        : '—',
      limit: `${Math.round(mode.riseS * 1e9)} ns, ${mode.name} mode`, holds: together <= max,
      origin: 'published: UM10204 table 10',
    },
    {
      label: 'fastest mode', value: reachable ? `${reachable.clockHz / 1000} kHz` : 'none',
      limit: `asked ${clockHz / 1000} kHz`,
      holds: !!reachable && reachable.clockHz >= clockHz, origin: 'published: UM10204',
    },
    {
      label: 'one resistor instead',
      value: good.length ? `${ohmsInWords(good[0]!)} – ${ohmsInWords(good.at(-1)!)}` : 'none does both',
      origin: 'published: IEC 60063, E12',
    },
  ]
}

function dividerRows(sheet: Of<'divider'>): SheetRow[] {
  const { inputV, mostV, leastV, bitHz, series, capacitancePf = USUAL_TAP_PF, mostMa = DIVIDER_MAX_MA, ownPair } = sheet
  const shown = ownPair
    ? judgeDivider(inputV, sheet.upperOhm!, sheet.lowerOhm!, capacitancePf)
    : chosenDivider({ inputV, mostV, leastV, series, mostMa, capacitancePf, bitHz })
  if (!shown) return [{
    label: 'no pair', value: '—',
    limit: 'Allow more current, a finer series or a slower rate; or take a level shifter.', holds: false,
  }]
  const origin: Origin = ownPair ? 'yours' : `published: IEC 60063, ${series}`
  return [
    { label: 'upper, in the wire', value: ohmsInWords(shown.upperOhm), origin },
    { label: 'lower, to ground', value: ohmsInWords(shown.lowerOhm), origin },
    {
      label: 'at the tap', value: `${shown.tapV.toFixed(2)} V`, limit: `${leastV} to ${mostV} V`,
      holds: shown.tapV <= mostV && shown.tapV >= leastV, origin: 'textbook',
    },
    {
      label: 'current', value: `${shown.currentMa.toFixed(2)} mA`, limit: `${mostMa} mA`,
      holds: shown.currentMa <= mostMa,
      origin: 'arithmetic',
    },
    {
      label: 'edge', value: `${Number((shown.edgeS * 1e6).toPrecision(3))} µs`,
      limit: `${Number((EDGE_SHARE * 1e6 / bitHz).toPrecision(3))} µs, a tenth of a bit`,
      holds: shown.edgeS <= EDGE_SHARE / bitHz,
      origin: 'practice',
    },
  ]
}

function ledRows(sheet: Of<'led'>, { lineMost }: SheetContext): SheetRow[] {
  const found = ledResistor(sheet)
  if (!found) return [
    { label: 'does not light', value: '—', limit: 'The supply has to be above the LED\'s own voltage.', holds: false },
  ]
  return [
    { label: 'exactly', value: ohmsInWords(found.exactOhm), origin: 'arithmetic: (U − Uf) ÷ I' },
    { label: 'take', value: ohmsInWords(found.ohm), origin: `published: IEC 60063, ${sheet.series}` },
    {
      label: 'flows', value: `${found.currentMa.toFixed(2)} mA`, limit: `a line gives ${lineMost.value} mA`,
      holds: found.currentMa <= lineMost.value, origin: lineMost.origin,
    },
    {
      label: 'resistor warms with', value: `${found.resistorMw.toFixed(1)} mW`, limit: 'a small one stands 250 mW',
      holds: found.resistorMw <= 250, origin: 'practice',
    },
  ]
}

const percent = (share: number) => `${share > 0 ? '+' : ''}${(share * 100).toFixed(3)} %`

function serialRows({ sourceHz, divider, baud, partHz, partDivider = 'eighth', frame }: Of<'serial'>): SheetRow[] {
  const board = serialRate({ sourceHz, divider }, baud)
  if (!board) return [{ label: 'out of reach', value: '—', limit: 'The divider has no step for this rate.',
    holds: false }]
  const part = partHz > 0 ? partSerialRate({ sourceHz: partHz, divider: partDivider }, baud) : null
  const apart = (board.rateHz - (part?.rateHz ?? baud)) / baud
  const origin: Origin = divider === 'eighth' ? 'memory: clock ÷ 8·(n+1)' : 'published: Arm DDI 0183'
  return [
    { label: 'board divides by', value: board.divider, origin },
    {
      label: 'board makes', value: `${board.rateHz.toFixed(2)} baud`,
      limit: `${percent(board.error)} of ±${SAFE_ERROR * 100} %`,
      holds: Math.abs(board.error) <= SAFE_ERROR, origin,
    },
    ...part
      ? [{
          label: 'part makes', value: `${part.rateHz.toFixed(2)} baud`,
          limit: `${percent(part.error)} of ±${SAFE_ERROR * 100} %`,
          holds: Math.abs(part.error) <= SAFE_ERROR, origin: 'memory',
        }]
      : [],
    {
      label: 'apart', value: percent(apart), limit: `a frame falls apart at ${(MAX_DIFFERENCE * 100).toFixed(1)} %`,
      holds: Math.abs(apart) <= MAX_DIFFERENCE, origin: 'arithmetic: half a bit in 9.5',
    },
    {
      label: 'carries', value: `${Math.floor(bytesPerSecond(baud, frame))} bytes/s`,
      limit: `${bitsPerByte(frame)} bit times a byte`,
      origin: 'arithmetic',
    },
  ]
}

function matrixRows(sheet: Of<'matrix'>): SheetRow[] {
  const [keys, rows, columns] = [sheet.keys, sheet.rows, sheet.columns].map(
    value => Math.max(1, Math.round(value)),
  ) as [number, number, number]
  const figures = matrixFigures({ rows, columns, diodes: sheet.diodes }, (sheet.settleUs ?? SETTLE_S * 1e6) * 1e-6)
  const fewest = smallestMatrix(keys)
  return [
    { label: 'keys', value: String(figures.keys), limit: `wanted ${keys}`, holds: figures.keys >= keys,
      origin: 'arithmetic' },
    {
      label: 'lines', value: String(figures.lines),
      limit: `fewest: ${fewest.rows + fewest.columns}, ${fewest.rows} × ${fewest.columns}`,
      holds: figures.lines <= fewest.rows + fewest.columns, origin: 'arithmetic',
    },
    {
      label: 'told apart together', value: `${figures.toldApart} keys`,
      limit: sheet.diodes ? 'a diode for each key' : 'three corners of a rectangle show the fourth', origin: 'practice',
    },
    {
      label: 'one scan', value: `${(figures.scanS * 1000).toFixed(2)} ms`, limit: '5 ms feel immediate',
      holds: figures.scanS <= 0.005,
      origin: 'practice',
    },
  ]
}

const diodeRow = ({ inductive, loadV, loadMa }: Of<'stage'>): SheetRow => ({
  label: 'flyback diode', value: inductive ? 'yes' : 'no',
  limit: inductive ? `across the load, cathode to ${loadV} V, for ${loadMa} mA or more` : 'none needed',
  origin: 'practice',
})

function mosfetRows(sheet: Of<'stage'>, { lineMost }: SheetContext): SheetRow[] {
  const stage = mosfetStage(sheet, lineMost.value)
  return [
    { label: 'gate resistor', value: ohmsInWords(stage.gateOhm), limit: `keeps the line within ${lineMost.value} mA`,
      origin: 'textbook' },
    { label: 'gate to ground', value: ohmsInWords(stage.pullDownOhm), limit: 'holds it off while the board starts',
      origin: 'practice' },
    {
      label: 'fully on from', value: `${MOSFET.fullyOnV} V`, limit: `the line gives ${sheet.lineV} V`,
      holds: sheet.lineV >= MOSFET.fullyOnV, origin: MOSFET.origin,
    },
    { label: 'load', value: `${sheet.loadMa} mA`, limit: `stands ${MOSFET.maxMa} mA`, holds: stage.fits,
      origin: MOSFET.origin },
    {
      label: 'loss', value: `${stage.lossMw.toFixed(1)} mW`, limit: '500 mW without a heat sink',
      holds: stage.lossMw <= 500,
      origin: 'memory',
    },
    diodeRow(sheet),
  ]
}

function transistorRows(sheet: Of<'stage'>, { lineMost }: SheetContext): SheetRow[] {
  const stage = transistorStage(sheet)
  return [
    {
      label: 'base resistor', value: ohmsInWords(stage.baseOhm),
      limit: `${TRANSISTOR.overdrive} × the load ÷ ${TRANSISTOR.gain}`,
      origin: 'practice',
    },
    {
      label: 'from the line', value: `${stage.baseMa.toFixed(2)} mA`, limit: `gives ${lineMost.value} mA`,
      holds: stage.baseMa <= lineMost.value, origin: 'arithmetic',
    },
    { label: 'load', value: `${sheet.loadMa} mA`, limit: `stands ${TRANSISTOR.maxMa} mA`, holds: stage.fits,
      origin: TRANSISTOR.origin },
    { label: 'loss', value: `${stage.lossMw.toFixed(1)} mW`, limit: '300 mW', holds: stage.lossMw <= 300,
      origin: 'memory' },
    diodeRow(sheet),
  ]
}
