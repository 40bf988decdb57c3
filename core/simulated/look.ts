/**
 * What the eye and the ear get of a part at this moment, in words: its lamp, its picture, what it switches,
 * turns or sounds.
 */
import type { PartGroup } from '../catalogue/types'
import type { ResolvedPart, Terminal } from '../facts/types'
import { FALTERS, FLICKERS, NO_PICTURE, NOTHING } from '../diagnosis/names'
import { worksAs } from '../diagnosis/works'
import type { Machine } from './machine'

/** What a line makes of a part, at rest and active. */
const DOES_BY_LINE: Partial<Readonly<Record<PartGroup, readonly [rest: string, active: string]>>> = {
  switching: ['let go', 'pulled in'], lighting: ['dark', 'lit'], moving: ['still', 'running'],
  sounding: ['silent', 'sounding'],
}
/** Between low and high where a part's file does not say. */
const USUAL_HIGH_V = 1.65
const DARK = 'Dark and still.'

/** What is said of a part that shows nothing by itself. */
const PLAIN = 'Nothing is to be seen of it by itself.'

/** The same, and nothing where there is nothing to be said. */
export function lookOrNothing(machine: Machine, owner: ResolvedPart): string | null {
  const said = lookAt(machine, owner)
  return said === PLAIN ? null : said
}

/** Law: a part that does nothing is dark and still; each input that follows a line is told with what that line does. */
export function lookAt(machine: Machine, owner: ResolvedPart): string {
  const { world, bench: { shop } } = machine
  if (!machine.isOn || !world.isFed(owner) || world.isDead(owner.id)) return DARK
  const works = machine.isUp ? worksAs(world, owner, shop) : NOTHING
  if (owner.part.group === 'showing') return picture(machine, owner, works)
  const said = inputsOf(machine, owner)
  if (works === FALTERS && machine.isBusy) said.push('it falters')
  if (works === FLICKERS) said.push('it flickers')
  if (owner.part.plugs?.some(({ socket }) => socket === 'fan')) said.push(turning(machine))
  return said.length ? `${capital(said.join('; '))}.` : PLAIN
}

function picture(machine: Machine, { id, part }: ResolvedPart, works: string): string {
  const hasLight = part.display?.backlight !== undefined && part.display.backlight !== 'none'
  const driven = (part.display?.driver ?? 'own program') === 'overlay'
    || part.plugs?.some(({ socket }) => socket === 'video') === true
  if (works === NO_PICTURE) return 'Lit and empty: white, or black with a glow.'
  if (works === NOTHING) return hasLight && machine.isOn && !machine.isUp ? 'Lit and empty.' : DARK
  if (driven) return 'A picture: the system\'s own lines of text, down to the login.'
  const isWritten = (machine.bytes.get(id)?.length ?? 0) > 0
    || [...machine.written.keys()].some(key => key.startsWith(`${id} `))
  if (isWritten) return 'Something is drawn: a program has written to it.'
  return `${hasLight ? 'Lit' : 'Dark'} and empty: no program has drawn on it yet.`
}

/** Each input with what stands on it now. */
function inputsOf(machine: Machine, owner: ResolvedPart): string[] {
  const words = DOES_BY_LINE[owner.part.group]
  if (!words) return []
  const inputs = machine.bench.shop.placed(owner)
    .filter(({ signal }) => signal!.direction === 'in' && signal!.role === 'line')
  const own = inputs.length > 1 ? (terminal: Terminal) => `${terminal.label} ` : () => ''
  return inputs.map(terminal => `${own(terminal)}${words[isActive(machine, terminal) ? 1 : 0]}`)
}

/** An input is active where its level is not the one at which the part rests. */
export function isActive(machine: Machine, { key, signal }: Terminal): boolean {
  const found = machine.levels.at(key)
  if (!('volts' in found)) return false
  const isHigh = found.volts > (signal!.inputHighMinV?.value ?? USUAL_HIGH_V)
  return isHigh !== (signal!.idleLevel === 'high')
}

function turning(machine: Machine): string {
  const { fanPercent } = machine.heat
  return fanPercent > 0 ? `it turns at ${Math.round(fanPercent)} %` : 'it stands still'
}

const capital = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}`
