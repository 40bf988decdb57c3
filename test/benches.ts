/**
 * Generated benches, and the order of one as an integer programme: it shares nothing with the product's search but what
 * a step is.
 */
import type { Workbench, Precedence, Side, BuildStep, Tool } from '../core/construction/steps/types'
import { pick, random } from './random'

/** So many steps, and rules that go forward along one hidden order, so that there is one. */
export function anyBench(seed: number, count: number, share = 0.25): Workbench {
  const next = random(seed)
  const steps = Array.from({ length: count }, (_, i): BuildStep => ({
    id: `s${i}`, title: `Step ${i}`, how: [], conductors: [], components: [], minutes: 1, undo: '', check: '.',
    hold: false, cautions: [],
    side: pick(next, ['top', 'bottom', 'any'] as Side[]),
    tool: pick(next, ['none', 'iron', 'meter', 'screwdriver'] as Tool[]),
  }))
  const names = steps.map(({ id }) => id).sort(() => next() - 0.5)
  const precedences: Precedence[] = []
  for (let i = 0; i < count; i++) for (let j = i + 1; j < count; j++) {
    if (next() < share) precedences.push({ first: names[i]!, then: names[j]!, why: 'so' })
  }
  return { steps, precedences }
}

/** A turn weighs more than all changes of tools together. */
export const TURN = 1000

/** Text of the programme whose least objective is turns × `TURN` + changes of tools. Step s at time t: `x_s_t`. */
export function orderProgramme({ steps, precedences }: Workbench): string {
  const times = steps.map((_, t) => t)
  const tools = [...new Set(steps.map(({ tool }) => tool).filter(tool => tool !== 'none'))]
  const rows: string[] = []
  const binaries: string[] = []
  const x = (s: number, t: number) => `x_${s}_${t}`
  steps.forEach((_, s) => {
    binaries.push(...times.map(t => x(s, t)))
    rows.push(`${times.map(t => `+ ${x(s, t)}`).join(' ')} = 1`)
  })
  for (const t of times) rows.push(`${steps.map((_, s) => `+ ${x(s, t)}`).join(' ')} = 1`)
  for (const { first, then } of precedences) {
    const [a, b] = [first, then].map(id => steps.findIndex(step => step.id === id)) as [number, number]
    rows.push(`${times.flatMap(t => [`+ ${t} ${x(b, t)}`, `- ${t} ${x(a, t)}`]).join(' ')} >= 1`)
  }
  for (const t of times) {
    binaries.push(`z_${t}`, ...tools.map((_, k) => `w_${k}_${t}`))
    if (tools.length) rows.push(`${tools.map((_, k) => `+ w_${k}_${t}`).join(' ')} = 1`)
    steps.forEach(({ side, tool }, s) => {
      // z is 1 with the top up; a step that does not mind leaves it as it is.
      if (side === 'top') rows.push(`+ z_${t} - ${x(s, t)} >= 0`)
      if (side === 'bottom') rows.push(`+ z_${t} + ${x(s, t)} <= 1`)
      if (tool !== 'none') rows.push(`+ w_${tools.indexOf(tool)}_${t} - ${x(s, t)} >= 0`)
    })
    if (t > 0) {
      rows.push(`+ f_${t} - z_${t} + z_${t - 1} >= 0`, `+ f_${t} + z_${t} - z_${t - 1} >= 0`)
      tools.forEach((_, k) => rows.push(`+ c_${t} - w_${k}_${t} + w_${k}_${t - 1} >= 0`))
    }
  }
  const cost = times.slice(1).map(t => `+ ${TURN} f_${t}${tools.length ? ` + 1 c_${t}` : ''}`).join(' ')
  return `Minimize\n obj: ${cost}\nSubject To\n${rows.map((row, i) => ` r${i}: ${row}`).join('\n')}\nBinary\n ${binaries.join(' ')}\nEnd\n`
}

/**
 * Whether an order is there with at most so many stretches that each have one side and one tool, as an integer
 * programme: step s lies in stretch p: `x_s_p`. Inside a stretch nothing is turned and nothing changed, so that its
 * steps can go in any order that the rules leave. `byTool`: false where only sides count. Least objective: turns ×
 * `TURN` + changes of tools.
 */
export function stretchProgramme({ steps, precedences }: Workbench, stretches: number, byTool: boolean): string {
  const places = Array.from({ length: stretches }, (_, p) => p)
  const tools = byTool ? [...new Set(steps.map(({ tool }) => tool).filter(tool => tool !== 'none'))] : []
  const rows: string[] = []
  const binaries: string[] = []
  steps.forEach(({ side, tool }, s) => {
    binaries.push(...places.map(p => `x_${s}_${p}`))
    rows.push(`${places.map(p => `+ x_${s}_${p}`).join(' ')} = 1`)
    for (const p of places) {
      if (side === 'top') rows.push(`+ z_${p} - x_${s}_${p} >= 0`)
      if (side === 'bottom') rows.push(`+ z_${p} + x_${s}_${p} <= 1`)
      if (byTool && tool !== 'none') rows.push(`+ w_${tools.indexOf(tool)}_${p} - x_${s}_${p} >= 0`)
    }
  })
  // What comes first lies in no later stretch: for each stretch, if the later step is in it or before, so is the first.
  for (const { first, then } of precedences) {
    const [a, b] = [first, then].map(id => steps.findIndex(step => step.id === id)) as [number, number]
    for (const p of places) {
      const upTo = places.slice(0, p + 1)
      rows.push(`${upTo.flatMap(q => [`+ x_${a}_${q}`, `- x_${b}_${q}`]).join(' ')} >= 0`)
    }
  }
  for (const p of places) {
    binaries.push(`z_${p}`, ...tools.map((_, k) => `w_${k}_${p}`))
    if (tools.length) rows.push(`${tools.map((_, k) => `+ w_${k}_${p}`).join(' ')} = 1`)
    if (p === 0) continue
    rows.push(`+ f_${p} - z_${p} + z_${p - 1} >= 0`, `+ f_${p} + z_${p} - z_${p - 1} >= 0`)
    tools.forEach((_, k) => rows.push(`+ c_${p} - w_${k}_${p} + w_${k}_${p - 1} >= 0`))
  }
  const cost = places.slice(1).map(p => `+ ${TURN} f_${p}${tools.length ? ` + 1 c_${p}` : ''}`).join(' ') || '0 z_0'
  return `Minimize\n obj: ${cost}\nSubject To\n${rows.map((row, i) => ` r${i}: ${row}`).join('\n')}\nBinary\n ${binaries.join(' ')}\nEnd\n`
}
