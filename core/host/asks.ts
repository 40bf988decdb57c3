/** What a plan's parts ask of the system: groups that may use their devices, and what is switched on for them. */
import type { Facts } from '../facts/types'

/** Device nodes that should be there. */
export interface Nodes { nodes: readonly { path: string }[] }

/** Device → the group that may use it, on images of the usual kind. practice */
const GROUPS: readonly (readonly [RegExp, string])[] = [
  [/^\/dev\/(tty(AMA|S|USB|ACM)|serial)/, 'dialout'], [/^\/dev\/i2c-/, 'i2c'], [/^\/dev\/spidev/, 'spi'],
  [/^\/dev\/gpio/, 'gpio'],
  [/^\/sys\/class\/pwm/, 'gpio'], [/^\/dev\/(fb|dri|video|media)/, 'video'], [/^\/dev\/snd/, 'audio'],
  [/^\/dev\/input/, 'input'],
]

/** Groups that a person needs for this plan, in alphabetical order. */
export function groupsFor(facts: Facts, expected: Nodes): string[] {
  const groups = expected.nodes.flatMap(({ path }) => GROUPS.find(([pattern]) => pattern.test(path))?.[1] ?? [])
  const hasLines = facts.terminals.some(({ signal, place }) => signal && place?.kind === 'header'
    && (signal.role === 'line' || signal.role === 'pwm'))
  const hasSound = facts.terminals.some(({ signal }) => signal?.role.startsWith('i2s.'))
  return [...new Set([...groups, ...hasLines ? ['gpio'] : [], ...hasSound ? ['audio'] : []])].sort()
}

export interface SwitchedOn {
  what: string
  /** What it lets in, or takes away. */
  opens: string
  by: string
}

const BUSES = [
  { kind: 'i2c', what: 'I²C',
    opens: 'Whoever is in the group i2c can write to every part on the bus, settings and memories too.' },
  { kind: 'spi', what: 'SPI', opens: 'Whoever is in the group spi can talk to every part on the bus.' },
  {
    kind: 'serial', what: 'Serial port',
    opens: 'Whoever is in the group dialout can read and write the port. A console on it would give a login to '
      + 'whatever hangs there.',
  },
] as const

/** Interfaces that are on, with what each opens up. */
export function switchedOn(facts: Facts): SwitchedOn[] {
  const { host } = facts.plan
  const kinds = new Set<string>(facts.buses.map(bus => bus.kind))
  return [
    ...BUSES.filter(({ kind }) => kinds.has(kind)).map(({ what, opens }) => ({ what, opens, by: 'the boot file' })),
    ...host.remote
      ? [{
          what: 'Remote shell', opens: host.keys?.length
            ? 'Whoever has one of the private keys can log in over the network. Passwords are refused.'
            : 'Whoever is on the network and knows the password can log in. Give a public key to '
              + 'have passwords refused.',
          by: 'the first-boot file',
        }]
      : [],
    ...host.radio
      ? [{ what: `Radio network ${host.radio.network}`, opens: 'Everything on that network can reach the board.',
          by: 'the network file' }]
      : [],
    ...host.runs.some(run => run.how === 'page')
      ? [{
          what: 'A page over the whole screen',
          opens: 'Whoever stands before it and gets out of the page is the board\'s user: see that sudo asks '
            + 'for a password there.',
          by: 'the desktop entry',
        }]
      : [],
  ]
}
