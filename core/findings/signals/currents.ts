/**
 * Currents of the lines: loads that need a driving stage, one line, all lines, pulls against each other, and what
 * moves at start.
 */
import type { Facts, Terminal } from '../../facts/types'
import { claimOf } from '../../placement/refs'
import { mosfetStage, pulledV, TRANSISTOR, transistorStage, type StageTask } from '../../signals/drive'
import { ohmsInWords } from '../../signals/series'
import { boardLimit } from '../limits'
import type { Finding, Fix, Rule } from '../types'
import { called, rounded, spot, whereIs } from './words'

const onLine = (terminal: Terminal) => terminal.signal && terminal.place?.kind === 'header' && terminal.place.line

function stageTask(terminal: Terminal, facts: Facts): StageTask {
  const { signal, owner } = terminal
  return {
    lineV: boardLimit(facts, 'outputHighV')?.value ?? 3.3, loadMa: signal!.inputCurrentMa?.value ?? 100,
    loadV: owner.supplies.some(supply => supply.rail === '5V')
      ? 5
      : signal!.load === 'lamp' && (signal!.inputCurrentMa?.value ?? 0) > 500
        ? 12
        : 5,
    inductive: signal!.load !== 'lamp', switchingHz: signal!.pwm?.frequencyHz ?? 0, series: 'E12',
  }
}

function stageFixes(terminal: Terminal, facts: Facts): Fix[] {
  const task = stageTask(terminal, facts)
  const mosfet = mosfetStage(task, boardLimit(facts, 'lineMaxMa')?.value ?? 16)
  const transistor = transistorStage(task)
  const put = (label: string, kind: 'mosfet' | 'transistor'): Fix => ({
    label, edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind } }],
  })
  const diode = task.inductive ? ', flyback diode' : ''
  return [
    put(`Add a MOSFET stage (gate ${ohmsInWords(mosfet.gateOhm)}, ${ohmsInWords(mosfet.pullDownOhm)} to ground${diode})`, 'mosfet'),
    ...transistor.fits
      ? [put(`Add a transistor stage (base ${ohmsInWords(transistor.baseOhm)}${diode})`, 'transistor')]
      : [],
  ]
}

/** Relays, fans and lamps that hang on a line with nothing between. */
export const drivenStraight: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const { signal, between, place } = terminal
  if (!signal?.load || between?.kind === 'mosfet' || between?.kind === 'transistor' || !place
    || place.kind === 'nowhere') return []
  const max = boardLimit(facts, 'lineMaxMa')
  const asked = signal.inputCurrentMa?.value
  const what = { coil: 'A coil', motor: 'A motor', lamp: 'A lamp' }[signal.load]
  const kick = signal.load === 'lamp' ? '' : ' and kicks back when switched off'
  return [{
    code: 'line.driven-straight', id: `line.driven-straight ${terminal.key}`, severity: 'stop',
    stages: ['wiring', 'power'],
    title: `${terminal.owner.name} is driven straight from ${whereIs(terminal)}`,
    sentence: `${what} draws ${asked ?? 'more'} mA${kick}; a line gives ${max?.value ?? 16} mA: the line is damaged or `
      + `the board resets. Put a driving stage${kick ? ' with a flyback diode' : ''} between.`,
    subjects: [spot(terminal)],
    figures: asked !== undefined && max
      ? [{ label: 'asked', value: asked, unit: 'mA', limit: max.value, origin: max.origin, limitKey: max.key }]
      : [],
    fixes: stageFixes(terminal, facts),
    worksheet: { kind: 'stage', ...stageTask(terminal, facts), switchingHz: signal.pwm?.frequencyHz ?? 0 },
  }]
})

/** A transistor stage that its load overwhelms. */
export const stageTooWeak: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const loadMa = terminal.signal?.load && terminal.signal.inputCurrentMa?.value
  if (terminal.between?.kind !== 'transistor' || !loadMa || loadMa <= TRANSISTOR.maxMa) return []
  return [{
    code: 'stage.too-weak', id: `stage.too-weak ${terminal.key}`, severity: 'stop', stages: ['wiring', 'power'],
    title: `${called(terminal)}: the transistor is too small`,
    sentence: `The load takes ${loadMa} mA and a common small transistor stands ${TRANSISTOR.maxMa} mA: it burns. `
      + 'Take a MOSFET.',
    subjects: [spot(terminal)],
    figures: [{ label: 'load', value: loadMa, unit: 'mA', limit: TRANSISTOR.maxMa, origin: TRANSISTOR.origin }],
    fixes: [{ label: 'MOSFET stage instead',
      edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'mosfet' } }] }],
    worksheet: { kind: 'stage', ...stageTask(terminal, facts), switchingHz: terminal.signal?.pwm?.frequencyHz ?? 0 },
  }]
})

/** A line, or all lines together, driven past their current. */
export const lineCurrent: Rule = ({ facts }) => {
  const drawing = facts.terminals.filter(terminal => onLine(terminal) && currentOf(terminal) > 0)
  const max = boardLimit(facts, 'lineMaxMa')
  const total = boardLimit(facts, 'linesTotalMaxMa')
  if (!max || !total) return []
  const findings = drawing.filter(terminal => !terminal.signal!.load && currentOf(terminal) > max.value)
    .map((terminal): Finding => ({
      code: 'line.overload', id: `line.overload ${terminal.key}`, severity: 'stop', stages: ['wiring'],
      title: `${whereIs(terminal).replace(/^p/, 'P')} is overloaded`,
      sentence: `${called(terminal)} draws ${currentOf(terminal)} mA from a line that gives ${max.value} mA: the line `
        + 'is damaged. Put a driving stage between.',
      subjects: [spot(terminal)],
      figures: [{ label: 'drawn', value: currentOf(terminal), unit: 'mA', limit: max.value, origin: max.origin,
        limitKey: max.key }],
      fixes: [{ label: 'Add a MOSFET stage',
        edits: [{ edit: 'set-between', terminal: terminal.key, between: { kind: 'mosfet' } }] }],
      worksheet: {
        kind: 'led', supplyV: boardLimit(facts, 'outputHighV')!.value, forwardV: 2,
        currentMa: Math.min(currentOf(terminal), max.value / 2),
        series: 'E12',
      },
    }))
  // A terminal that is over the limit of one line already has its own finding.
  const sum = drawing.filter(terminal => currentOf(terminal) <= max.value)
    .reduce((all, terminal) => all + currentOf(terminal), 0)
  if (sum > total.value) findings.push({
    code: 'lines.overload', id: 'lines.overload', severity: 'stop', stages: ['wiring', 'power'],
    title: 'All lines together are overloaded',
    sentence: `The lines drive ${rounded(sum)} mA together and stand ${total.value} mA: the processor is damaged. Put `
      + 'driving stages between, the largest first.',
    subjects: drawing.map(spot),
    figures: [{ label: 'together', value: rounded(sum), unit: 'mA', limit: total.value, origin: total.origin,
      limitKey: total.key }],
    fixes: [],
  })
  return findings
}

/** Current a terminal takes from its line; a driving stage leaves next to nothing. */
function currentOf({ signal, between }: Terminal): number {
  if (between?.kind === 'mosfet' || between?.kind === 'level-shifter') return 0
  return between?.kind === 'transistor'
    ? 1
    : signal?.inputCurrentMa?.value ?? 0
}

/** Outputs that the reset pull, or the boot console, moves before any program runs. */
export const movesAtStart: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const { signal, place } = terminal
  if (!signal || place?.kind !== 'header' || !place.line) return []
  const matters = signal.still || (signal.idleLevel && (terminal.owner.part.contacts || signal.load))
  if (!matters) return []
  const { line, resetPull, startNoise } = place.line
  const idlePull = signal.idleLevel === 'high' ? 'up' : 'down'
  const common = {
    severity: 'caution' as const, stages: ['wiring' as const], subjects: [spot(terminal)],
    fixes: claimOf(terminal) === undefined
      ? [{ label: `Release ${called(terminal)}`, edits: [{ edit: 'release' as const, terminal: terminal.key }] }]
      : [],
  }
  if (startNoise) return [{
    ...common, code: 'start.flutters', id: `start.flutters ${terminal.key}`,
    title: `${called(terminal)} flutters while the board starts`,
    sentence: `On line ${line} ${startNoise}: what hangs there is switched on and off for seconds. `
      + (claimOf(terminal) === undefined
        ? 'Move it to another line, or let the console go and keep in mind that the very first moments stay noisy.'
        : 'Its board has it there and it cannot move: let the console go, and keep in mind that the very first '
          + 'moments stay noisy.'),
    figures: [{ label: 'line', value: line, origin: 'memory' }],
  }]
  if (!signal.idleLevel || resetPull === idlePull) return []
  return [{
    ...common, code: 'start.moves', id: `start.moves ${terminal.key}`,
    title: `${called(terminal)} may pull in while the board starts`,
    sentence: `Until a program runs, line ${line} is pulled ${resetPull} and this input idles ${signal.idleLevel}. `
      + (claimOf(terminal) === undefined
        ? `Move it to a line pulled ${idlePull}, or add a resistor of your own.`
        : 'Its board has it there and it cannot move: add a resistor of your own, or see that nothing minds.'),
    figures: [{ label: 'pull at reset', value: resetPull, limit: idlePull, origin: 'memory' }],
  }]
})

/** An outer resistor against the line's own pull: the level in between may be neither high nor low. */
export const pullsAgainst: Rule = ({ facts }) => facts.terminals.flatMap((terminal): Finding[] => {
  const { signal, place } = terminal
  if (!signal?.pull || place?.kind !== 'header' || !place.line) return []
  const high = boardLimit(facts, 'outputHighV')!.value
  const weakest = boardLimit(facts, 'innerPullMinOhm')!
  const outer = signal.pull.ohm.value
  const { resetPull, fixedPullUpOhm, line } = place.line
  const inner = fixedPullUpOhm ?? weakest.value
  const innerUp = fixedPullUpOhm !== undefined || resetPull === 'up'
  if (innerUp === (signal.pull.to === 'up')) return []
  const level = innerUp ? pulledV(high, inner, outer) : pulledV(high, outer, inner)
  const limit = boardLimit(facts, signal.pull.to === 'down' ? 'inputLowMaxV' : 'inputHighMinV')!
  if (signal.pull.to === 'down' ? level <= limit.value : level >= limit.value) return []
  return [{
    code: 'pull.against', id: `pull.against ${terminal.key}`, severity: 'caution', stages: ['wiring'],
    title: `${called(terminal)} hangs between two pulls`,
    sentence: `Line ${line} is pulled ${innerUp ? 'up' : 'down'} through ${ohmsInWords(inner)} and the part pulls `
      + `${signal.pull.to} through ${ohmsInWords(outer)}: ${rounded(level)} V is neither high nor low for sure. Move `
      + 'it to a line without that pull, or take a smaller resistor.',
    subjects: [spot(terminal)],
    figures: [{ label: 'level', value: rounded(level), unit: 'V', limit: limit.value, origin: limit.origin,
      limitKey: limit.key }],
    fixes: claimOf(terminal) === undefined
      ? [{ label: `Release ${called(terminal)}`, edits: [{ edit: 'release', terminal: terminal.key }] }]
      : [],
  }]
})
