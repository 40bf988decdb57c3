import { shippedCatalogue } from '../core/catalogue'
import { evaluate } from '../core/evaluate'
import type { Finding } from '../core/findings'
import { readArguments } from './input'

/** Prints findings and budgets; 1 when there is a stop. */
export function check(args: string[]): number {
  const { plan, values } = readArguments(args, { json: { type: 'boolean' } })
  const report = evaluate(plan, shippedCatalogue)
  if (values.json) console.log(JSON.stringify(report, null, 2))
  else {
    console.log(plan.name)
    for (const finding of report.findings) console.log(inWords(finding))
    for (const rail of report.power.rails)
      console.log(
        `${rail.rail}: ${Math.round(rail.peakMa)} mA at peak, ${Math.round(rail.typicalMa)} typical, of ${rail.availableMa ?? '?'} mA`,
      )
    const { stops, cautions, notes } = report.counts
    console.log(`${stops} stops, ${cautions} cautions, ${notes} notes`)
  }
  return report.counts.stops ? 1 : 0
}

function inWords(finding: Finding): string {
  const figures = finding.figures.map(({ label, value, unit = '', limit, origin }) =>
    `${label} ${value} ${unit}`.trim() + (limit === undefined ? '' : `, limit ${limit} ${unit}`.trimEnd()) + (origin ? ` (${origin})` : ''))
  return [`${finding.severity}  ${finding.code}  ${finding.title}`, `      ${finding.sentence}`,
    ...figures.length ? [`      ${figures.join('; ')}`] : [], ...finding.fixes.map(fix => `      fix: ${fix.label}`)].join('\n')
}
