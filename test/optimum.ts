/**
 * The placement problem once more, as an integer programme in the text form that LP solvers read. It shares the list of
 * ways with the product, and nothing of how the best is found.
 */
import type { PlacementProblem } from '../core/placement/types'

interface Model {
  objective: string[]
  rows: string[]
  binaries: Set<string>
}

const term = (cost: number, name: string) => `${cost < 0 ? '-' : '+'} ${Math.abs(cost).toFixed(6)} ${name}`
const columnOf = (position: number) => Math.ceil(position / 2) - 1
const LEAP = 12

/** Text of the programme whose least objective is the cost of the best placement of the signals. */
export function programmeOf(problem: PlacementProblem): string {
  const { weights, columns } = problem
  const model: Model = { objective: [], rows: [], binaries: new Set() }
  const binary = (name: string) => {
    model.binaries.add(name)
    return name
  }
  const row = (text: string) => model.rows.push(` r${model.rows.length}: ${text}`)
  const strapped = (demand: PlacementProblem['demands'][number]) =>
    demand.candidates.flatMap(candidate =>
      (candidate.addresses ?? [undefined]).map(entry => ({
        ...candidate, address: entry?.address, cost: candidate.cost + (entry?.cost ?? 0),
      })))
  const chosen = problem.demands.map((demand, d) => strapped(demand).map((candidate, c) => {
    const name = binary(`x_${d}_${c}`)
    model.objective.push(term(candidate.cost, name))
    return { name, candidate, demand }
  }))
  chosen.forEach(list => row(`${list.map(({ name }) => `+ ${name}`).join(' ')} = 1`))
  const all = chosen.flat()

  // Lines, those of software buses among them.
  const software = [...new Set(all.flatMap(({ candidate }) => candidate.opens?.softwareBus ?? []))]
  const softLines = software.flatMap(id => [-0.5, 0.5].map((rank, i) => ({
    id: `${id}.${i}`, partId: id, slow: false, optional: false, analog: false, still: false, rank, softwareBus: id,
    idleLevel: undefined,
    before: undefined,
  })))
  const lines = [...problem.lineDemands.map(line => ({ ...line, softwareBus: undefined as string | undefined })),
    ...softLines]
  for (const id of software) {
    const open = binary(`o_${software.indexOf(id)}`)
    for (const { name, candidate } of all) if (candidate.opens?.softwareBus === id) row(`+ ${open} - ${name} >= 0`)
  }
  const own = lines.map(line => problem.linePlaces.map((place) => {
    if (line.analog !== place.isAnalog) return Infinity
    if (place.isExpander && !place.isAnalog && (!line.slow || place.ownerId === line.partId)) return Infinity
    const wrong = line.idleLevel !== undefined && place.resetPull !== undefined
      && place.resetPull !== (line.idleLevel === 'high'
        ? 'up'
        : 'down')
    const start = line.still
      ? (wrong || place.noisy ? weights.unsafeAtStart : 0)
      : line.idleLevel !== undefined && (wrong || place.noisy)
        ? weights.movesAtStart
        : 0
    const order = place.column === null ? 0 : -weights.outOfOrder * line.rank * (place.column - (columns >> 1))
    const fights = 'drives' in line && line.drives && place.noisy ? weights.console : 0
    return place.cost + start + fights + order + (line.before && line.before !== place.ref ? weights.moved : 0)
  }))
  const y = (l: number, p: number) => `y_${l}_${p}`
  lines.forEach((line, l) => {
    const places = problem.linePlaces.map((_, p) => p).filter(p => own[l]![p]! < Infinity)
    for (const p of places) model.objective.push(term(own[l]![p]!, binary(y(l, p))))
    const sum = places.map(p => `+ ${y(l, p)}`).join(' ')
    if (line.softwareBus) row(`${sum} - o_${software.indexOf(line.softwareBus)} = 0`)
    else if (line.optional) {
      model.objective.push(term(weights.leftOut, binary(`l_${l}`)))
      row(`${sum} + l_${l} = 1`)
    }
    else row(`${sum} = 1`)
  })

  // Each place carries one thing.
  const tokens = new Map<string, Map<string, string[]>>()
  for (const { name, candidate } of all) for (const [ref, token] of Object.entries(candidate.tokens)) {
    const here = tokens.get(ref) ?? new Map<string, string[]>()
    here.set(token, [...here.get(token) ?? [], name])
    tokens.set(ref, here)
  }
  const refs = new Set([...tokens.keys(), ...problem.linePlaces.map(place => place.ref)])
  for (const [i, ref] of [...refs].entries()) {
    const carried = [...tokens.get(ref) ?? []].map(([, names], t) => {
      const used = binary(`u_${i}_${t}`)
      for (const name of names) row(`+ ${used} - ${name} >= 0`)
      return used
    })
    const p = problem.linePlaces.findIndex(place => place.ref === ref)
    const onIt = p < 0 ? [] : lines.map((_, l) => l).filter(l => own[l]![p]! < Infinity).map(l => y(l, p))
    if (carried.length + onIt.length > 1) row(`${[...carried, ...onIt].map(name => `+ ${name}`).join(' ')} <= 1`)
  }

  // Controllers: one way at a time, or alone, or shared at a price.
  for (const resource of new Set(all.flatMap(({ candidate }) => candidate.uses.map(use => use.resource)))) {
    const uses = all.flatMap(({ name, candidate }) => candidate.uses.filter(use => use.resource === resource)
      .map(use => ({ name, ...use })))
    const alone = uses.filter(use => use.exclusive)
    const others = uses.filter(use => !use.exclusive)
    if (alone.length > 1) row(`${alone.map(({ name }) => `+ ${name}`).join(' ')} <= 1`)
    for (const { name } of others) if (alone.length) row(`+ ${name} ${alone.map(use => `+ ${use.name}`).join(' ')} <= 1`)
    const priced = others.filter(use => use.shareCost !== undefined)
    if (priced.length > 1) {
      const more = `s_${resource.replace(/\W/g, '_')}`
      model.objective.push(term(priced[0]!.shareCost!, more))
      row(`+ ${more} ${priced.map(({ name }) => `- ${name}`).join(' ')} >= -1`)
    }
    const ways = [...new Set(others.map(use => use.way))]
    if (ways.length > 1) {
      for (const way of ways) for (const use of others) if (use.way === way) {
        row(`+ ${binary(`w_${resource.replace(/\W/g, '_')}_${way}`)} - ${use.name} >= 0`)
      }
      row(`${ways.map(way => `+ w_${resource.replace(/\W/g, '_')}_${way}`).join(' ')} <= 1`)
    }
  }

  // Two devices answering together, on one bus or through a hub.
  let clashes = 0
  all.forEach((a, i) => all.slice(i + 1).forEach((b) => {
    if (a.demand === b.demand || a.candidate.address === undefined
      || a.candidate.address !== b.candidate.address) return
    const pay = (conditions: string[]) => {
      const name = `c_${clashes++}`
      model.objective.push(term(weights.addressClash, name))
      row(`+ ${name} ${conditions.map(condition => `- ${condition}`).join(' ')} >= ${1 - conditions.length}`)
    }
    if (a.candidate.busId === b.candidate.busId) return pay([a.name, b.name])
    for (const [inner, outer] of [[a, b], [b, a]] as const) {
      const hub = inner.candidate.busId?.includes('.') ? inner.candidate.busId.split('.')[0] : undefined
      for (const way of all) {
        if (way.demand.isHub && way.demand.partId === hub && way.candidate.busId === outer.candidate.busId
          && way !== outer) {
          pay([inner.name, outer.name, way.name])
        }
      }
      if (outer.demand.isHub && outer.demand.partId === hub) pay([inner.name, outer.name])
    }
  }))

  // Lines near the middle of their part: where its buses lie, or where it gathers by itself.
  const byPart = new Map<string, number[]>()
  lines.forEach((line, l) => byPart.set(line.partId, [...byPart.get(line.partId) ?? [], l]))
  const apart = (p: number, middle: number | string) => {
    const place = problem.linePlaces[p]!
    if (typeof middle === 'string') return place.ownerId === middle ? 0 : LEAP
    return place.column === null ? LEAP : Math.min(LEAP, Math.abs(place.column - middle))
  }
  let joint = 0
  for (const [part, mine] of byPart) {
    const lists = chosen.filter(list => list[0]?.demand.partId === part)
    const combinations = lists.reduce<(typeof all)[]>((found,
      list) => found.flatMap(entry => list.map(next => [...entry, next])), [[]])
    const middleOf = (combination: typeof all) => {
      const list = combination.flatMap(({ candidate }) => Object.values(candidate.places))
        .filter(ref => /^P\d+$/.test(ref))
        .map(ref => columnOf(Number(ref.slice(1))))
      return list.length ? Math.round(2 * list.reduce((a, b) => a + b, 0) / list.length) / 2 : null
    }
    const gathers = mine.length > 1
    const middles: (number | string)[] = gathers
      ? [...Array.from({ length: columns }, (_, a) => a),
          ...new Set(problem.linePlaces.flatMap(place => place.ownerId ?? []))]
      : []
    const cases = combinations.map(combination => ({ combination, middle: middleOf(combination) }))
    if (!gathers && cases.every(({ middle }) => middle === null)) continue
    // One variable for each case of where the middle is.
    const at = [...cases.filter(({ middle }) => middle !== null), ...gathers
      && cases.some(({ middle }) => middle === null)
      ? middles.map(middle => ({ combination: null, middle }))
      : []].map(({ combination, middle }) => ({ name: binary(`m_${joint++}`), combination, middle: middle! }))
    const none = cases.some(({ middle }) => middle === null) && !gathers ? [binary(`m_${joint++}`)] : []
    row(`${[...at.map(({ name }) => name), ...none].map(name => `+ ${name}`).join(' ')} = 1`)
    for (const { name, combination } of at) for (const choice of combination
      ?? []) row(`+ ${choice.name} - ${name} >= 0`)
    const without = cases.filter(({ middle }) => middle === null).map(({ combination }) => combination)
    if (without.length && lists.length === 1) {
      const free = [...none, ...at.filter(({ combination }) => !combination).map(({ name }) => name)]
      row(`${free.map(name => `+ ${name}`).join(' ')} ${without.map(([choice]) => `- ${choice!.name}`).join(' ')} = 0`)
    }
    for (const l of mine) for (const [p] of problem.linePlaces.entries()) {
      if (own[l]![p] === Infinity) continue
      const parts = at.map(({ name, middle }) => {
        const q = `q_${l}_${p}_${name}`
        model.objective.push(term(weights.apart * apart(p, middle), q))
        row(`+ ${name} - ${q} >= 0`)
        return q
      })
      const free = none.map((name) => {
        row(`+ ${name} - q_${l}_${p}_${name} >= 0`)
        return `q_${l}_${p}_${name}`
      })
      row(`${[...parts, ...free].map(q => `+ ${q}`).join(' ')} - ${y(l, p)} = 0`)
    }
  }
  return `Minimize\n obj: ${model.objective.join(' ') || '0 zero'}\nSubject To\n${model.rows.join('\n')}\nBinaries\n `
    + `${[...model.binaries].join('\n ')}\nEnd\n`
}

/**
 * The same for supplies and grounds beside signals that lie fast; a part without signals has its ground beside its
 * supplies in `supplies`.
 */
export function powerProgrammeOf(problem: PlacementProblem, places: Record<string, string>,
  supplies: Record<string, string>): string {
  const { weights, columns } = problem
  const model: Model = { objective: [], rows: [], binaries: new Set() }
  const row = (text: string) => model.rows.push(` r${model.rows.length}: ${text}`)
  const middles = new Map<string, number[]>()
  for (const [terminal, ref] of Object.entries(places)) if (/^P\d+$/.test(ref)) {
    middles.set(terminal.split('.')[0]!,
      [...middles.get(terminal.split('.')[0]!) ?? [], columnOf(Number(ref.slice(1)))])
  }
  const own = new Set(middles.keys())
  for (const kind of ['5V', '3V3', 'ground'] as const) {
    for (const demand of problem.powerDemands) {
      const before = kind === '3V3' ? ['5V'] : kind === 'ground' ? ['5V', '3V3'] : []
      const ref = supplies[demand.terminal]
      if (own.has(demand.partId) || ref === undefined) continue
      if (demand.kind === before.at(-1)) middles.set(demand.partId,
        [...middles.get(demand.partId) ?? [], columnOf(Number(ref.slice(1)))])
    }
    const loose = problem.powerDemands.filter(demand => demand.kind === kind && !demand.fixedAt)
    loose.forEach((demand, d) => {
      const list = middles.get(demand.partId)
      const names = problem.powerPlaces[kind].map((position) => {
        const name = `y_${kind}_${d}_${position}`
        model.binaries.add(name)
        const column = columnOf(position)
        const away = list ? weights.apart * Math.abs(column - list.reduce((a, b) => a + b, 0) / list.length) : 0
        model.objective.push(term(
          weights.farFromEnd * Math.min(column, columns - 1 - column) + away
          + (demand.before && demand.before !== `P${position}`
            ? weights.moved
            : 0),
          name,
        ))
        return name
      })
      row(`${names.map(name => `+ ${name}`).join(' ')} = 1`)
    })
    for (const position of problem.powerPlaces[kind]) {
      const already = problem.powerDemands.filter(demand =>
        demand.kind === kind && demand.fixedAt === `P${position}`).length
      // The n-th wire on a position costs n − 1 shares, those of fixed wires included.
      const levels = loose.map((_, n) => {
        const name = `n_${kind}_${position}_${n}`
        model.binaries.add(name)
        model.objective.push(term(weights.sharedSupply * (already + n), name))
        return name
      })
      if (levels.length) {
        row(`${levels.map(name => `+ ${name}`).join(' ')} `
          + `${loose.map((_, d) => `- y_${kind}_${d}_${position}`).join(' ')} = 0`)
      }
    }
  }
  return `Minimize\n obj: ${model.objective.join(' ') || '0 zero'}\nSubject To\n${model.rows.join('\n') || ' r: zero = 0'}\nBinaries\n `
    + `${[...model.binaries].join('\n ')}\nEnd\n`
}
