import { shippedCatalogue } from '../core/catalogue'
import { evaluate, type Report } from '../core/evaluate'
import type { Finding } from '../core/findings'
import { countsInWords } from '../core/findings/counts'
import { isOpen } from '../core/findings/set-aside'
import { parsed, readPlanFile, UnusableInput } from './input'

/**
 * Prints findings and budgets of each plan; 1 when there is a stop in one of them. With `--json` one plan gives its
 * report, several give a list of `{ file, report }`, or `{ file, problem }` for one that cannot be used; 2 then, after
 * the others were checked.
 */
export function check(args: string[]): number {
  const { values, positionals: files } = parsed(args, { json: { type: 'boolean' } })
  if (!files.length) throw new UnusableInput('voltaris: give a plan file or several, or - for standard input.')
  if (files.length === 1) {
    const { name, report } = checked(files[0]!)
    if (values.json) console.log(JSON.stringify(report, null, 2))
    else print(name, report)
    return report.counts.stops ? 1 : 0
  }
  const rows = files.map(file => attempt(file))
  if (values.json) {
    console.log(JSON.stringify(rows.map(({ file, report, problem }) => report ? { file, report } : { file, problem }),
      null, 2))
  }
  else {
    for (const { file, name, report, problem } of rows) {
      if (report) print(`${file}: ${name}`, report)
      else console.error(problem)
    }
    const withStops = rows.filter(({ report }) => report?.counts.stops).length
    console.log(`${rows.length} plans, ${withStops} with a stop, ${rows.filter(row => row.problem).length} unusable`)
  }
  if (rows.some(row => row.problem)) return 2
  return rows.some(({ report }) => report?.counts.stops) ? 1 : 0
}

function checked(file: string): { name: string, report: Report } {
  const plan = readPlanFile(file)
  return { name: plan.name, report: evaluate(plan, shippedCatalogue) }
}

/** One that cannot be used does not keep the others from being checked. */
function attempt(file: string): { file: string, name?: string, report?: Report, problem?: string } {
  try {
    return { file, ...checked(file) }
  }
  catch (error) {
    if (!(error instanceof UnusableInput)) throw error
    return { file, problem: error.message }
  }
}

function print(name: string, report: Report): void {
  console.log(name)
  for (const finding of report.findings.filter(isOpen)) console.log(inWords(finding))
  for (const finding of report.findings.filter(entry => !isOpen(entry))) {
    console.log(`set aside  ${finding.severity}  ${finding.code}  ${finding.title}\n      because: ${finding.aside!.reason}`)
  }
  for (const rail of report.power.rails)
    console.log(
      `${rail.rail}: ${Math.round(rail.peakMa)} mA at peak, ${Math.round(rail.typicalMa)} typical, of `
      + `${rail.availableMa ?? '?'} mA`,
    )
  const { stops, cautions, notes } = report.counts
  const aside = report.findings.filter(finding => !isOpen(finding)).length
  console.log(`${countsInWords(stops, cautions, notes)}${aside ? `, ${aside} set aside` : ''}`)
}

const LAPSED = { graver: 'it is graver', figures: 'its figures are others' } as const

function inWords(finding: Finding): string {
  const figures = finding.figures.map(({ label, value, unit = '', limit, origin }) =>
    `${label} ${value} ${unit}`.trim() + (limit === undefined ? '' : `, limit ${limit} ${unit}`.trimEnd())
    + (origin ? ` (${origin})` : ''))
  return [`${finding.severity}  ${finding.code}  ${finding.title}`, `      ${finding.sentence}`,
    ...finding.lapsed ? [`      was set aside (${finding.lapsed.reason}); now ${LAPSED[finding.lapsed.because]}`] : [],
    ...figures.length ? [`      ${figures.join('; ')}`] : [], ...finding.fixes.map(fix =>
      `      fix: ${fix.label}`)].join('\n')
}
