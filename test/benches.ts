/** Generated benches, and the order of one as an integer programme: it shares nothing with the product's search but what a step is. */
import type { Bench, Precedence, Side, Step, Tool } from '../core/build/steps/types'
import { pick, random } from './random'

/** So many steps, and rules that go forward along one hidden order, so that there is one. */
export function anyBench(seed: number, count: number, share = 0.25): Bench {
  const next = random(seed)
  const steps = Array.from({ length: count }, (_, i): Step => ({
    id: `s${i}`, title: `Step ${i}`, how: [], conductors: [], components: [], minutes: 1, undo: '', check: '.', hold: false, cautions: [],
    side: pick(next, ['top', 'bottom', 'any'] as Side[]), tool: pick(next, ['none', 'iron', 'meter', 'screwdriver'] as Tool[]),
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
export function orderProgramme({ steps, precedences }: Bench): string {
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
