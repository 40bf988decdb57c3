/**
 * Laws that hold for every plan, across all engines: stated over plans generated from the whole catalogue on every
 * board, over each part alone on every board, and over the demo projects.
 */
import { describe, expect, it } from 'vitest'
import { filesOf } from '../../core/boot/files'
import { lintBoot, planSide } from '../../core/boot/lint'
import { rehearse } from '../../core/boot/rehearse/rehearse'
import { countsOf, evaluate } from '../../core/evaluate'
import { gatherFacts } from '../../core/facts/gather'
import type { Finding } from '../../core/findings'
import { netlistOf } from '../../core/netlist/build'
import { applyEdit } from '../../core/plan/edits'
import { isOfPart } from '../../core/plan/mentions'
import { STAGE_IDS, type Plan } from '../../core/plan/types'
import { powerOf } from '../../core/power/report'
import { demoPlans } from '../../demo'
import { lived, placed, newcomerPlans, placedPlans, written } from '../generated'
import { isDrawn } from '../random'
import { catalogue, planOf } from '../plans'

const PLANS = [...placedPlans(200), ...newcomerPlans()]
const LIVED = PLANS.map((plan, i) => lived(plan, i + 1))
/** On every board; in `npm test` each part on every other board, so that all boards come up with all kinds of parts. */
const eachPart = (): Plan[] => [...catalogue.boards.keys()].flatMap((board,
  b) => [...catalogue.parts.keys()].flatMap((type, i) => {
  if (!isDrawn && (b + i) % 2) return []
  const plan = placed(planOf(board, { only: type }, { supply: { type: 'adapter-5v-5a' } }))
  return plan ? [written(plan)] : []
}))
const named = (plan: Plan) => `${plan.board}: ${plan.parts.map(part => part.type).join(', ')}`

/**
 * What placing and writing choose: everything that files say, and where things lie. Levels, loads and heat are
 * the maker's parts.
 */
const CHOSEN
  = /^(boot|bus|overlay|menu|environment|kernel|start\.dark|position|function|address|controller|stack\.covers|plan|i2c\.no-pull-up)\b/
const grave = (findings: readonly Finding[]) => findings.filter(finding => finding.severity !== 'note')

/** Add-on boards have their address and their bus: two of one address clash wherever they are put. */
const isBound = ({ code, subjects }: Finding, plan: Plan) =>
  code === 'address.clash'
  && subjects.every(({ partId }) => catalogue.parts.get(plan.parts.find(part => part.id === partId)!.type)!.isAddOn)

describe('own work is never refused', () => {
  const faultsOf = (plan: Plan): string[] => {
    const facts = gatherFacts(plan, catalogue)
    const { parts, steps } = rehearse(facts)
    return [
      ...grave(evaluate(plan, catalogue).findings)
        .filter(finding => CHOSEN.test(finding.code) && !isBound(finding, plan))
        .map(finding => `check: ${finding.code} ${finding.title}`),
      ...lintBoot({ files: filesOf(plan, facts.board), board: facts.board, plan: planSide(facts) })
        .filter(finding => finding.severity !== 'note')
        .map(finding => `lint: ${finding.code} ${finding.title}`),
      // Two parts of one fixed address are the maker's choice, and have a finding of their own.
      ...parts.filter(part => part.state === 'dark' && part.cause !== 'address-twin')
        .map(part => `dark: ${part.name}: ${part.why}`),
      ...steps.filter(step => step.outcome === 'failed').map(step => `step: ${step.title} ${step.detail}`),
    ]
  }

  it('on generated plans: placed, written into a fresh file, then linted, checked and rehearsed', () => {
    for (const plan of PLANS) expect(faultsOf(plan), named(plan)).toEqual([])
  })

  it('for each part alone on every board', () => {
    const plans = eachPart()
    expect(plans.length).toBeGreaterThan(isDrawn ? 500 : 250)
    for (const plan of plans) expect(faultsOf(plan), named(plan)).toEqual([])
  })
})

describe('a fix fixes', () => {
  it('its finding is gone or says that it is not yet enough, and no stop appears that was not there', () => {
    for (const plan of LIVED.filter((_, i) => i % 3 === 0)) {
      const before = evaluate(plan, catalogue).findings
      const stops = new Set(before.filter(finding => finding.severity === 'stop').map(finding => finding.code))
      for (const finding of before.slice(0, 8)) for (const fix of finding.fixes.slice(0, 1)) {
        const after = evaluate(applyEdit(plan, { edit: 'all', edits: fix.edits }).plan, catalogue).findings
        const what = `${named(plan)}; ${finding.id}: ${fix.label}`
        if (!/not enough by itself$/.test(fix.label) && !STEPWISE.has(finding.code)) {
          expect(after.map(other => other.id), what).not.toContain(finding.id)
        }
        expect(after.filter(other => other.severity === 'stop' && !stops.has(other.code))
          .map(other => `${other.code}: ${other.title}`), what).toEqual([])
      }
    }
  })

  it('first fixes one after another come to an end', () => {
    for (const start of LIVED.filter((_, i) => i % 6 === 0)) {
      let plan = start
      const seen = new Set<string>()
      let steps = 0
      for (let next = mendable(plan); next && steps < 60; next = mendable(plan), steps++) {
        plan = applyEdit(plan, { edit: 'all', edits: next.fixes[0]!.edits }).plan
        const state = JSON.stringify(plan)
        if (seen.has(state)) break
        seen.add(state)
      }
      expect(steps, named(start)).toBeLessThan(60)
    }
  })

  const mendable = (plan: Plan) =>
    evaluate(plan, catalogue).findings.find(finding =>
      finding.severity !== 'note' && finding.fixes.length && !/not enough by itself$/.test(finding.fixes[0]!.label))
})

/** Where several want one thing, one fix takes one of them away. */
const STEPWISE = new Set(['position.claimed-twice', 'lines.exceeded', 'controller.two-ways', 'pwm.channel-shared',
  'address.clash'])

describe('wires are the netlist', () => {
  it('wire list and parts list hold every conductor and component, once, and nothing else', () => {
    for (const plan of [...LIVED, ...demoPlans]) {
      const facts = gatherFacts(plan, catalogue)
      const { components, conductors, ownerOf, nets } = netlistOf(facts, powerOf(facts).tree)
      const { wires, partsList } = evaluate(plan, catalogue)
      const ids = conductors.map(conductor => conductor.id)
      expect(new Set(ids).size, named(plan)).toBe(ids.length)
      expect(wires.map(wire => wire.key).sort(), named(plan)).toEqual([...ids].sort())
      const listed = partsList.flatMap(item => item.ids)
      expect(listed.filter(id => components.some(component => component.id === id))
        .sort(), named(plan)).toEqual(components.map(component => component.id).sort())
      expect(listed.filter(id => !components.some(component => component.id === id) && !ids.includes(id))).toEqual([])
      // Both ends lie on the table, on the components that the conductor names; every pin is on one net.
      for (const { ways, from, to, id } of conductors) {
        expect(ownerOf.get(ways[0]?.from ?? '')?.id ?? from, id).toBe(from)
        expect(ownerOf.get(ways[0]?.to ?? '')?.id ?? to, id).toBe(to)
        for (const way of ways) expect(ownerOf.has(way.from) && ownerOf.has(way.to), `${id} ${way.from} ${way.to}`)
          .toBe(true)
      }
      expect(nets.flatMap(net => net.pins).sort())
        .toEqual(components.flatMap(component => component.pins.map(pin => pin.id)).sort())
    }
  })

  it('no header position carries more than one plug', () => {
    for (const plan of LIVED) {
      const facts = gatherFacts(plan, catalogue)
      const plugs = netlistOf(facts, powerOf(facts).tree).conductors.filter(conductor => conductor.kind !== 'seat')
        .flatMap(({ ways }) => ways.flatMap(way => [way.from, way.to]))
        .filter(pin => /^@P\d+$/.test(pin))
      expect(plugs.length, named(plan)).toBe(new Set(plugs).size)
    }
  })

  it('a load is fed in the wire list exactly as in the circuit', () => {
    for (const plan of LIVED) {
      const facts = gatherFacts(plan, catalogue)
      const { tree } = powerOf(facts)
      const { conductors } = netlistOf(facts, tree)
      for (const node of tree.nodes.filter(entry => entry.kind === 'part' && !entry.byPlug)) {
        const feeder = tree.byId.get(`${node.id}@wire`)?.from[0]
        const rows = conductors.filter(({ ways }) => ways.some(way => way.from === node.id))
        const onHeader = rows.some(row => row.position !== undefined && row.role !== 'signal')
        if (facts.parts.find(owner => owner.id === node.partId)!.part.isAddOn) continue
        if (feeder === undefined) expect(rows.length, `${named(plan)} ${node.id}`).toBe(0)
        else if (!feeder.startsWith('@')) expect(onHeader, `${named(plan)} ${node.id} is fed by ${feeder}`).toBe(false)
        else if (/^@P\d+$/.test(feeder)) expect(onHeader, `${named(plan)} ${node.id}`).toBe(true)
      }
    }
  })
})

describe('one story', () => {
  const asPattern = (path: string) => new RegExp(`^${path.replace(/[.+^${}()|[\]\\]/g, '\\$&').replace(/\*/g, '.*')}$`)

  it('every device node expected at bring-up appears in the rehearsal', () => {
    for (const plan of PLANS) {
      const { devices } = rehearse(gatherFacts(plan, catalogue))
      for (const { path } of evaluate(plan, catalogue).expected.nodes) {
        expect(
          devices.some(device => asPattern(device.path).test(path) || asPattern(path).test(device.path)),
          `${named(plan)} ${path}: ${devices.map(device => device.path).join(' ')}`,
        ).toBe(true)
      }
    }
  })

  it('every voltage expected is that of the circuit', () => {
    for (const plan of LIVED) {
      const { states } = powerOf(gatherFacts(plan, catalogue))
      const typical = states.find(state => state.id === 'typical')!
      for (const { node, volts } of evaluate(plan, catalogue).expected.voltages) expect(volts)
        .toBeCloseTo(typical.nodes[node]!.voltageV, 2)
    }
  })
})

describe('one count', () => {
  it('stages, strip and list agree: a finding counts at every stage it names', () => {
    for (const plan of LIVED) {
      const { findings, counts, stageCounts, stages } = evaluate(plan, catalogue)
      expect(counts).toEqual(countsOf(findings))
      for (const stage of STAGE_IDS) {
        const here = findings.filter(finding => finding.stages.includes(stage))
        expect(stageCounts[stage], stage).toEqual(countsOf(here))
        if (here.some(finding => finding.severity === 'stop')) expect(stages[stage]).toBe('stop')
        else expect(stages[stage]).not.toBe('stop')
      }
      const facts = gatherFacts(plan, catalogue)
      const lint = lintBoot({ files: filesOf(plan, facts.board), board: facts.board, plan: planSide(facts) })
      for (const finding of lint) {
        expect(
          findings.some(other =>
            other.code === finding.code && other.subjects.some(subject => subject.text?.from === finding.from)),
          finding.code,
        ).toBe(true)
      }
      if (rehearse(facts).parts.some(part => part.state === 'dark')) expect(findings.length).toBeGreaterThan(0)
    }
  })
})

describe('names do not matter', () => {
  const codes = (plan: Plan) =>
    evaluate(plan, catalogue).findings.map(finding => `${finding.severity} ${finding.code}`).sort()

  it('other names, in other letters, give the same findings', () => {
    for (const plan of LIVED.filter((_, i) => i % 2 === 0)) {
      expect(
        codes({ ...plan, parts: plan.parts.map((part, i) => ({ ...part, name: `Ж${i} 名 "${'<'.repeat(i)}"` })) }),
        named(plan),
      ).toEqual(codes(plan))
    }
  })

  it('other ids give the same findings', () => {
    // An overlay made for a part is called by the part's id: with another id its line is another.
    for (const plan of LIVED.filter((entry, i) => i % 3 === 0 && !entry.boot?.text.includes('dtoverlay=voltaris-'))) {
      const renamed = JSON.parse(JSON.stringify(plan).replace(/part(\d+)(?=[."#@\s,])/g, 'constructor-$1')) as Plan
      // The boot file's comments carry check figures of lines alone, so that they stay as written.
      expect(codes(renamed), named(plan)).toEqual(codes(plan))
    }
  })
})

describe('a limit says where it comes from', () => {
  it('on every figure that a finding judges by', () => {
    for (const plan of LIVED.filter((_, i) => i % 3 === 1)) {
      for (const { code, figures } of evaluate(plan, catalogue).findings) {
        for (const { label, limit,
          origin } of figures) if (limit !== undefined) expect(origin, `${code}: ${label}`).toBeTruthy()
      }
    }
  })
})

describe('nothing is orphaned', () => {
  it('taking a part out takes every mention of it, and undo brings all back', () => {
    for (const plan of LIVED.filter((_, i) => i % 2 === 1)) for (const part of plan.parts) {
      const rich: Plan = {
        ...plan, stack: plan.parts.map(entry => entry.id), clocks: { [`${part.id}.ch0`]: 100_000 },
        power: {
          ...plan.power, figures: { [`${part.id}.vcc`]: { peakMa: 5 } },
          joins: [{ from: '@supply', into: `${part.id}.vcc` }],
          steps: [{ id: 'one', name: '', base: 'idle', loads: { [`${part.id}.vcc`]: 'off' }, open: [`${part.id}#1`],
            seconds: 1 }],
          arrangements: [{ id: 'a', name: '', supply: null, nodes: [], feeds: { [`${part.id}.vcc`]: null }, joins: [],
            figures: {} }],
        },
        boot: { text: '', made: [part.id], off: [part.id] },
        build: {
          done: [`${part.id}.sda@3`, `${part.id}@seat`, `stage:${part.id}.x.gnd@6`, `step:part:${part.id}`],
          took: { [`${part.id}.sda@3`]: 40, [`step:part:${part.id}`]: 70 }, colours: {},
          order: [`part:${part.id}`], flat: [], places: { [part.id]: { on: 'table' } },
          measured: { [part.id]: { aboveMm: 9 } },
          rules: [{ first: `part:${part.id}`, then: 'supply', why: '' }],
          wires: { [`${part.id}.sda`]: { colour: 'red' } },
        },
        worksheets: [{ id: 'w', keptAt: '2026-01-01T00:00:00Z', what: '',
          sheet: { kind: 'wire', node: `${part.id}.vcc@wire` } }],
      }
      const { plan: after, inverse } = applyEdit(rich, { edit: 'remove-part', id: part.id })
      const words = JSON.stringify(after).match(/"[^"]*"/g)!.map(word => word.slice(1, -1))
      expect(words.filter(isOfPart(part.id)), named(plan)).toEqual([])
      expect(applyEdit(after, inverse).plan).toEqual(rich)
    }
  })
})

describe('more is not safer', () => {
  it('a switch, a wire or a fuse put into a supply makes no stop about it vanish', () => {
    for (const plan of LIVED.filter((_, i) => i % 3 === 1)) {
      const before = evaluate(plan, catalogue).findings
      for (const [type, name] of [['switch-power', 'Switch'], ['wire-pair', 'Wire'],
        ['terminal-screw', 'Terminal']] as const) {
        const grown = applyEdit(plan,
          { edit: 'add-node', node: { id: 'added', type, name, from: '@cable' }, before: '@socket' }).plan
        const after = new Set(evaluate(grown, catalogue).findings.map(finding => finding.code))
        const lost = before.filter(finding =>
          finding.severity === 'stop'
          && /^(rail\.two|rail\.over-v|ground|hub|power\.(unknown|ring)|load\.over-v|polarity|net)/.test(finding.code)
          && !after.has(finding.code))
        expect(lost.map(finding => finding.code), `${named(plan)} with a ${name}`).toEqual([])
      }
    }
  })
})
