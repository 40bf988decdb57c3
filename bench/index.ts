/**
 * `npm run bench`: how long the work takes that a person waits for. Machines differ and are noisy, so what counts are
 * the ratios at the end, all measured in this one run.
 */
import { shippedCatalogue as catalogue } from '../core/catalogue'
import { evaluate } from '../core/evaluate'
import { applyEdit } from '../core/plan/edits'
import { gatherFacts } from '../core/facts/gather'
import { emptyPlan } from '../core/plan/create'
import { placePlan } from '../core/placement/place'
import type { Plan } from '../core/plan/types'
import { lintBoot } from '../core/boot/lint'
import { writeBlob } from '../core/devicetree/blob/write'
import { applyOverlay } from '../core/devicetree/overlay/apply'
import { compileText } from '../core/devicetree/source/compile'
import { DeviceTreeError } from '../core/devicetree/types'
import { demoPlans } from '../demo'
import { stateSpecs } from '../core/power/states'
import { solvePower } from '../core/power/report'
import { stressPlan, supplyPlan } from './stress'

function times(runs: number, work: (run: number) => void): number[] {
  for (let i = 0; i < Math.min(20, runs); i++) work(i)
  return Array.from({ length: runs }, (_, i) => {
    const start = performance.now()
    work(i)
    return performance.now() - start
  }).sort((a, b) => a - b)
}

const at = (sorted: number[], share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!
const ms = (value: number) => `${value.toFixed(2)} ms`.padStart(12)
const show = (name: string, sorted: number[]) =>
  console.log(`${name.padEnd(62)} median ${ms(at(sorted, 0.5))}   95 % ${ms(at(sorted, 0.95))}`)

const largest = [...demoPlans].sort((a, b) => b.parts.length - a.parts.length)[0]!
/** Edits as they come from a person: an option, a position, a name. */
const edited = (plan: Plan, run: number) => applyEdit(plan, run % 3 === 0
  ? { edit: 'set-option', id: plan.parts[0]!.id, option: 'address', value: run % 2 ? '0x21' : '0x20' }
  : run % 3 === 1
    ? {
        edit: 'assign', terminal: 'buffer.trig', to: { position: run % 2 ? 11 : 13 },
      }
    : { edit: 'rename', name: `run ${run}` }).plan

const refresh = times(300, run => void evaluate(edited(largest, run), catalogue))
show(`edit to findings, "${largest.name}", ${largest.parts.length} parts`, refresh)
const single = times(
  300,
  run => void evaluate({ ...emptyPlan('One'), board: 'forty-classic',
    parts: [{ id: 'a', type: 'oled-i2c', name: `${run}` }] }, catalogue),
)
show('edit to findings, one part', single)

const fifteen: Plan = {
  ...emptyPlan('Fifteen'), board: 'forty-usb-c',
  parts: [
    'oled-i2c', 'pressure-humidity-i2c', 'light-i2c', 'clock-cell-i2c', 'motion-i2c', 'analog-4-i2c', 'screen-spi-24', 'card-reader-spi',
    'modem-serial', 'positioning-serial', 'probe-onewire', 'servo-small', 'fan-5v', 'strip-addressable', 'distance-echo-5v',
  ]
    .map((type, i) => ({ id: `p${i}`, type, name: type })),
}
const place = times(30, () => void placePlan(fifteen, catalogue, { scope: 'all' }))
show('placement, fifteen parts on forty positions', place)
for (const plan of demoPlans) show(`placement, "${plan.name}"`,
  times(5, () => void placePlan(plan, catalogue, { scope: 'all' })))
// Boot files of megabytes, every kind of line mixed: twice the length is to take twice the time.
const mixedFile = (bytes: number) => {
  const kinds = (i: number) => [
    'dtparam=i2c_arm=on', `# comment ${i}`, 'dtoverlay=gpio-ir,gpio_pin=17', 'arm_freq=900', '[pi4]', '[all]',
    `unknown_${i}=1`,
    'gpio=17=op,dh',
  ][i % 8]!
  const lines: string[] = []
  for (let i = 0, length = 0; length < bytes; i++) length += lines.push(kinds(i)) && lines.at(-1)!.length + 1
  return lines.join('\n')
}
const lintTimes = [0.4, 0.8, 1.6].map((megabytes) => {
  const text = mixedFile(megabytes * 1e6)
  const sorted = times(3,
    () => void lintBoot({ files: { dialect: 'key-value', text }, board: catalogue.boards.get('forty-classic')! }))
  show(`lint of a boot file of ${megabytes} MB`, sorted)
  return at(sorted, 0.5)
})
// Trees of many labels and properties, overlays that reopen all of them, and macros that double each other.
const many = (n: number, of: (i: number) => string) => Array.from({ length: n }, (_, i) => of(i)).join('\n')
const treeTimes = [25_000, 50_000].map((n) => {
  const text = `/dts-v1/;\n/ {${many(n, i => `l${i}: n${i} { };`)}};\n`
  const sorted = times(3, () => void writeBlob(compileText(text, { symbols: true })))
  show(`a source of ${n} labels`, sorted)
  return at(sorted, 0.5)
})
const wideSource = `/dts-v1/;\n/ { n: n {${many(40_000, i => `p${i} = <${i}>;`)}}; };\n`
show('a node of 40000 properties', times(3, () => void writeBlob(compileText(wideSource))))
const wideBase = compileText(wideSource, { symbols: true })
const wideOverlay = compileText(`/dts-v1/;\n/plugin/;\n&n {${many(40_000, i => `p${i} = <2>;`)}};\n`, { symbols: true })
show('an overlay of 40000 properties laid on', times(3, () => void applyOverlay(wideBase, wideOverlay)))
const doubling = `/dts-v1/;\n#define M0 1\n${many(31, i => `#define M${i + 1} M${i} M${i}`)}\n/ { x = <M31>; };\n`
show('31 macros that double each other, refused', times(3, () => {
  try {
    compileText(doubling)
  }
  catch (error) {
    if (!(error instanceof DeviceTreeError) || error.fault !== 'limit') throw error
  }
}))
console.log(`labels: twice as many take ${(treeTimes[1]! / treeTimes[0]!).toFixed(2)} times as long`)
const stress = stressPlan()
const signals = gatherFacts(stress, catalogue).terminals.filter(terminal => terminal.is === 'signal').length
const proved = placePlan(stress, catalogue, { scope: 'all' })
const wide = times(5, () => void placePlan(stress, catalogue, { scope: 'all' }))
show(`placement, ${signals} signals on ninety positions${proved.ok && proved.provedBest ? ', proved least' : ''}`, wide)
const supply = gatherFacts(supplyPlan(200), catalogue)
const small = gatherFacts(supplyPlan(50), catalogue)
const solved = solvePower(supply)
const states = stateSpecs(supply.plan.power).length
const one = times(60, () => void solvePower(supply, ['peak']))
show(`supply of ${solved.tree.nodes.length} nodes, one `
  + `state${solved.states.every(state => state.ok) ? '' : ' (no operating point)'}`, one)
const every = times(60, () => void solvePower(supply))
show(`supply of ${solved.tree.nodes.length} nodes, all ${states} states`, every)
const quarter = times(60, () => void solvePower(small))
show(`supply of ${solvePower(small).tree.nodes.length} nodes, all ${states} states`, quarter)
console.log(
  `\nsupply: share of the 50 ms allowed, all states, at the median: ${(at(every, 0.5) / 50).toFixed(2)}   200 nodes / 50 nodes: `
  + `${(at(every, 0.5) / at(quarter, 0.5)).toFixed(1)}`,
)
console.log(
  `\nfifteen parts: share of the 100 ms allowed, at the median: ${(at(place, 0.5) / 100).toFixed(2)}   stress: share of the 2 s allowed: `
  + `${(at(wide, 0.5) / 2000).toFixed(2)}   stress / fifteen: ${(at(wide, 0.5) / at(place, 0.5)).toFixed(0)}`,
)
console.log(
  `largest demo / one part: ${(at(refresh, 0.5) / at(single, 0.5)).toFixed(1)}   share of the 50 ms allowed, at 95 %: `
  + `${(at(refresh, 0.95) / 50).toFixed(2)}`,
)
console.log(`lint of twice the text: ${(lintTimes[1]! / lintTimes[0]!).toFixed(2)} and `
  + `${(lintTimes[2]! / lintTimes[1]!).toFixed(2)} times as long`)
