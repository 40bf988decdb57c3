import { DeviceTreeError } from '../core/devicetree/types'
import { asBuiltOf } from '../core/share/as-built'
import { checkScriptOf } from '../core/diagnosis/check-script'
import { outcomeOfReading } from '../core/diagnosis/diagnose'
import { runSheetOf, type RunRow } from '../core/diagnosis/sheet'
import { diagnosisInWords } from '../core/diagnosis/words'
import { readSaid } from '../core/diagnosis/symptoms/read'
import { marksHeard, saidInLines } from '../core/diagnosis/symptoms/tell'
import { modelOf, type Model } from '../core/diagnosis/table'
import { shippedCatalogue } from '../core/catalogue'
import { gatherFacts } from '../core/facts/gather'
import type { Plan } from '../core/plan/types'
import { readArguments, UnusableInput } from './input'

/** Prints the run sheet, or what the odd things that were seen may come from; 1 when something odd was seen. */
export function diagnose(args: string[]): number {
  const { plan, values } = readArguments(args, {
    'json': { type: 'boolean' }, 'sheet': { type: 'boolean' }, 'script': { type: 'boolean' },
    'as-built': { type: 'boolean' },
    'seen': { type: 'string', multiple: true }, 'say': { type: 'string', multiple: true },
  })
  const model = modelFor(plan)
  const heard = (values.say ?? []).flatMap(text =>
    readSaid(text, runSheetOf(gatherFacts(plan, shippedCatalogue), model)))
  if (heard.length && heard.every(({ kind }) => kind === 'unknown')) {
    throw new UnusableInput(`voltaris diagnose: ${saidInLines(heard).join('\n')}`)
  }
  const sightings = [
    ...(values.seen ?? []).map(text => sightingOf(text, model)),
    ...marksHeard(heard).map(({ probe, outcome, value }) => ({
      id: probe, outcome, at: new Date().toISOString(), ...value !== undefined && { value },
    })),
  ]
  const all = { ...plan,
    seen: [...plan.seen.filter(({ id }) => !sightings.some(other => other.id === id)), ...sightings] }
  const facts = gatherFacts(all, shippedCatalogue)
  const sheet = runSheetOf(facts, model)
  const { rows, proofs, diagnosis, stray } = sheet
  if (heard.length && !values.json) for (const line of [...saidInLines(heard), '']) console.log(line)
  if (values.json) console.log(JSON.stringify({ rows, proofs, diagnosis, stray, ...heard.length && { said: heard } },
    null, 2))
  else if (values.script) process.stdout.write(checkScriptOf(plan.name, model.table.probes))
  else if (values['as-built']) process.stdout.write(asBuiltOf(facts, sheet))
  else if (values.sheet) for (const line of sheetLines(rows)) console.log(line)
  else if (heard.length && !diagnosis.odd.length) console.log('On the sheet nothing is odd with that.')
  else for (const line of diagnosisInWords(diagnosis, rows)) console.log(line)
  return diagnosis.odd.length ? 1 : 0
}

function modelFor(plan: Plan): Model {
  try {
    return modelOf(gatherFacts(plan, shippedCatalogue))
  }
  catch (error) {
    if (error instanceof DeviceTreeError) throw new UnusableInput(
      `voltaris diagnose: the plan's base tree cannot be read: ${error.message}`)
    throw error
  }
}

/**
 * `volt:5V=4.2` or `works:oled=nothing`. Throws `UnusableInput` for a probe or an outcome that the plan does not have.
 */
function sightingOf(text: string, { table }: Model): Plan['seen'][number] {
  // Names of probes may hold the sign itself: a line of the boot file does.
  const probe = table.probes.filter(({ id }) => text.startsWith(`${id}=`)).sort((a, b) => b.id.length - a.id.length)[0]
  if (!probe) throw new UnusableInput(`voltaris diagnose: "${text}" names no probe of this plan. --sheet lists them.`)
  const said = text.slice(probe.id.length + 1)
  const known = [...new Set([
    table.planned[table.probes.indexOf(probe)]!, ...table.seen.map(row => row[table.probes.indexOf(probe)]!),
  ])]
  const figure = /^-?[\d.]+$/.test(said) ? Number(said) : null
  const outcome = figure === null
    ? known.find(entry => entry.toLowerCase() === said.toLowerCase())
    : outcomeOfReading(table, probe.id,
        figure)
  if (!outcome) {
    throw new UnusableInput(`voltaris diagnose: at ${probe.id} the model does not know "${said}". It knows: `
      + `${known.join(' | ')}.`)
  }
  return { id: probe.id, outcome, at: new Date().toISOString(), ...figure !== null && { value: figure } }
}

function sheetLines(rows: readonly RunRow[]): string[] {
  return rows.flatMap(({ probe, planned, seen }, i) => [
    ...rows[i - 1]?.probe.phase === probe.phase ? [] : [`${i ? '\n' : ''}${probe.phase.toUpperCase()}`],
    `[${seen ? seen.isPlanned ? 'x' : '!' : ' '}] ${probe.id}`,
    `    ${probe.title}: ${planned}${seen && !seen.isPlanned ? `; seen: ${seen.outcome}` : ''}`,
  ])
}
