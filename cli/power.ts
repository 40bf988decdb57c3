import { shippedCatalogue } from '../core/catalogue'
import { evaluate, type Report } from '../core/evaluate'
import { isOpenStop } from '../core/findings/set-aside'
import type { PowerState } from '../core/power/states'
import { readArguments } from './input'

/** Prints voltage, current and power at every node in every state and step; 1 when the supply has a stop. */
export function power(args: string[]): number {
  const { plan, values } = readArguments(args, { json: { type: 'boolean' } })
  const report = evaluate(plan, shippedCatalogue)
  const findings = report.findings.filter(finding => finding.stages.includes('power'))
  if (values.json) console.log(JSON.stringify({ ...report.power, findings }, null, 2))
  else {
    console.log(plan.name)
    for (const state of report.power.states) printState(state, report)
    for (const { name, hours, meanW } of report.power.stores) {
      console.log(`${name}: ${hours === null ? 'nothing is drawn' : `${hours.toFixed(1)} h at ${meanW.toFixed(2)} W`}`)
    }
    if (report.power.heat) {
      console.log(
        `processor: ${report.power.heat.hottestC.toFixed(0)} °C at most, `
        + `${report.power.heat.slowsAtS === null ? 'clocks hold' : `clocks fall after ${report.power.heat.slowsAtS} s`}`,
      )
    }
    for (const { severity, code, title } of findings) console.log(`${severity}  ${code}  ${title}`)
  }
  return findings.some(isOpenStop) ? 1 : 0
}

function printState({ label, ok, carriedShare, nodes }: PowerState, { power: { nodes: tree } }: Report): void {
  console.log(`\n${label}${ok ? '' : `: no operating point, ${Math.round(carriedShare * 100)} % of the load can be carried`}`)
  for (const node of tree) {
    const { voltageV, currentMa, powerMw } = nodes[node.id]!
    console.log(
      `  ${node.id.padEnd(26)} ${voltageV.toFixed(3).padStart(8)} V ${currentMa.toFixed(1).padStart(9)} mA `
      + `${powerMw.toFixed(0).padStart(8)} mW  ${node.name}`,
    )
  }
}
