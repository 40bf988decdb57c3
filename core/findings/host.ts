/** What the board is told beside its boot file: addresses, programs, names, keys, memory and card. */
import { thingsFor } from '../catalogue/things'
import { networkOf } from '../host/address'
import { holdsMb, hostBudgets } from '../host/budgets'
import { keyAt, matrixSize } from '../host/matrix'
import { wordsOfCommand } from '../host/quoting'
import { isMet } from '../facts/conditions'
import type { HostRun } from '../plan/host-shape'
import { thingEdits } from '../plan/things'
import type { Finding, Fix, Rule } from './types'

const at = (more: Pick<Finding, 'code' | 'id' | 'severity' | 'title' | 'sentence'> & Partial<Finding>): Finding =>
  ({ stages: ['boot'], subjects: [], figures: [], fixes: [], ...more })

/** An address that reaches nobody, a router in another net. */
export const fixedAddressFits: Rule = ({ facts: { plan: { host } } }) => {
  const { address } = host
  if (!address) return []
  const net = networkOf(address.address)
  const own = address.address.split('/')[0]!
  const { gateway } = address
  return [
    ...net.hosts > 0 && (own === net.first || own === net.last)
      ? [at({
          code: 'host.address-off', id: 'host.address-off', severity: 'stop',
          title: `${own} is no address for one board`,
          sentence: `In its net it ${own === net.first ? 'names the net itself' : 'reaches everybody'}: the board `
            + 'would answer to nobody. Give it another, and keep it out of what the router hands out.',
        })]
      : [],
    ...address.interface.startsWith('wl') && !host.radio
      ? [at({
          code: 'host.radio-missing', id: 'host.radio-missing', severity: 'stop',
          title: 'The fixed address is by radio, and no network is named',
          sentence: `${address.interface} is a radio: without the network's name the board is on none. Name it, or `
            + 'give the address to the socket of a cable such as eth0.',
          fixes: [{ label: 'Give it to eth0',
            edits: [{ edit: 'set-host', host: { address: { ...address, interface: 'eth0' } } }] }],
        })]
      : [],
    ...gateway !== undefined && (!net.holds(gateway) || gateway === own)
      ? [at({
          code: 'host.gateway-off', id: 'host.gateway-off', severity: 'caution',
          title: 'The router is not in the board\'s net',
          sentence: gateway === own
            ? 'The router\'s address is the board\'s own: two at one address get in each other\'s way. Give the router\'s.'
            : `${address.address} reaches ${net.first} to ${net.last}; ${gateway} lies outside, and nothing beyond `
              + 'the house is reached. Correct one of them.',
          figures: [{ label: 'router', value: gateway, limit: `${net.first} to ${net.last}`,
            origin: 'published: RFC 4632' }],
          fixes: net.hosts > 1 && net.usualGateway !== own
            ? [{ label: `Write ${net.usualGateway}`, edits: [{ edit: 'set-host', host: { address: { ...address,
                gateway: net.usualGateway } } }] }]
            : [],
        })]
      : [],
  ]
}

/** A word that names a file by its end, and not from the root. */
const NAMES_FILE = /^[^-/~$"'=\s][^=\s]*\.(py|sh|js|mjs|pl|rb|lua|php|jar|json|toml|ya?ml|conf|ini|wav|mp3|html)$/i

/**
 * The word of a command that is found only from the folder of somebody who is logged in; null where there is none. `~`
 * is opened by the shell that starts such a command; a desktop starts its programs in the user's folder, and looks for
 * their first word in none.
 */
function lostWord({ how, folder }: HostRun,
  [first = '', ...others]: readonly string[]): { word: string, isFile: boolean } | null {
  if (/^\.{1,2}\//.test(first)) return { word: first, isFile: false }
  const file = how !== 'service' || folder ? undefined : others.find(word => NAMES_FILE.test(word))
  return file === undefined ? null : { word: file, isFile: true }
}

/** Commands that cannot be started, files that nobody owns, names given twice. */
export const runsStart: Rule = ({ facts: { plan: { host } } }) => {
  const own = host.runs.filter(run => run.how !== 'page')
  const twice = host.runs.filter((run,
    i) => host.runs.findIndex(other => other.name === run.name && (other.how === 'service') === (
    run.how === 'service')) < i)
  return [
    ...own.flatMap((run): Finding[] => {
      const words = wordsOfCommand(run.command)
      if (run.command.trim() === '' || words === null) return [at({
        code: 'host.command-off', id: `host.command-off ${run.id}`, severity: 'stop',
        title: `${run.name}: the command cannot be read`,
        sentence: words === null
          ? 'A quote is opened and not closed: nothing would start. Close it.'
          : 'There is no command: nothing would start. Write what starts the program.',
      })]
      const lost = lostWord(run, words)
      if (lost === null) return []
      const home = host.user && host.user !== 'root' ? `/home/${host.user}` : null
      return [at({
        code: 'host.command-off', id: `host.command-off ${run.id}`, severity: 'caution',
        title: `${run.name}: ${lost.word} is looked for from nowhere`,
        sentence: 'What starts with the board '
          + `${lost.isFile ? 'looks in / where no folder is named' : 'has no folder to go by'}: write the whole path, `
          + `such as ${home ?? '/home/keeper'}/run.py${lost.isFile ? ', or the folder it lies in' : ''}.`,
        fixes: lost.isFile && home
          ? [{ label: `Start it in ${home}`, edits: [{ edit: 'set-host', host: {
              runs: host.runs.map(other => other.id === run.id ? { ...other, folder: home } : other),
            } }] }]
          : [],
      })]
    }),
    ...host.runs.filter(run => run.how === 'page' && !/^(https?|file):\/\/\S+$/.test(run.command)).map(run => at({
      code: 'host.command-off', id: `host.command-off ${run.id}`, severity: 'caution',
      title: `${run.name}: that is no address of a page`,
      sentence: 'Write it whole, such as http://localhost:8080/ or file:///home/keeper/page.html.',
    })),
    ...(!host.user || host.user === 'root') && host.runs.length
      ? [at({
          code: 'host.no-user', id: 'host.no-user', severity: 'caution', title: host.user
            ? 'The programs run as root'
            : 'Nobody is named who runs the programs',
          sentence: 'Services would run as root, where a mistake reaches everything, and what starts with the desktop '
            + 'has no folder to lie in. Name the user of the board.',
        })]
      : [],
    ...twice.map(run => at({
      code: 'host.name-twice', id: `host.name-twice ${run.id}`, severity: 'stop',
      title: `Two programs are called ${run.name}`,
      sentence: 'Their files have one name: only the first is written. Call one of them otherwise.',
    })),
    ...host.usbNames.filter((entry, i) => host.usbNames.findIndex(other => other.name === entry.name) < i)
      .map(entry => at({
        code: 'host.name-twice', id: `host.name-twice usb ${entry.id}`, severity: 'stop',
        title: `Two things are called /dev/${entry.name}`,
        sentence: 'The name points to whichever was plugged in last. Call one of them otherwise.',
      })),
  ]
}

/** Like USB things come in any order. */
export const likeThingsSwap: Rule = ({ facts }) => {
  const families = new Map<string, { id: string, name: string }[]>()
  for (const owner of facts.parts) {
    const isPlugged = owner.part.plugs?.some(plug => plug.socket === 'usb' && isMet(plug.when, owner.options))
    const family = isPlugged
      ? owner.part.nodes?.filter(node => isMet(node.when, owner.options))
        .flatMap(({ path }) => /^\/dev\/tty(USB|ACM)/.exec(path)?.[0] ?? [])[0]
      : undefined
    if (family) families.set(family, [...families.get(family) ?? [], { id: owner.id, name: owner.name }])
  }
  const named = facts.plan.host.usbNames
  return [...families].filter(([, owners]) => owners.length > 1 && named.length < owners.length)
    .map(([family, owners]) => at({
      code: 'host.usb-swap', id: `host.usb-swap ${family}`, severity: 'note', stages: ['boot', 'bringup'],
      title: `${owners.map(({ name }) => name).join(' and ')} can change names`,
      sentence: `Each is ${family} with a number in the order in which they are found: after a start the numbers may `
        + 'be changed round. Give each a name that stays, by its serial number or its socket.',
      subjects: owners.map(({ id }) => ({ partId: id })), figures: [],
    }))
}

/** A login that anybody on the network may try. */
export const remoteOpen: Rule = ({ facts: { plan: { host } } }) => host.remote && !host.keys?.length
  ? [at({
      code: 'host.remote-open', id: 'host.remote-open', severity: 'note', title: 'The remote shell takes passwords',
      sentence: 'Whoever reaches the board may try them. With a public key in the plan passwords are '
        + 'refused from outside.',
    })]
  : []

/** One key at two crossings. */
export const keysTwice: Rule = ({ facts }) => facts.parts.flatMap((owner) => {
  const size = matrixSize(owner)
  const { matrix } = facts.plan.host
  if (!size || !matrix[owner.id]) return []
  const found = new Map<string, string[]>()
  for (let row = 0; row < size.rows; row++) for (let column = 0; column < size.columns; column++) {
    const { code } = keyAt(owner.id, row, column, size.columns, matrix)
    if (code !== 'KEY_UNKNOWN') found.set(code, [...found.get(code) ?? [], `row ${row + 1}, column ${column + 1}`])
  }
  return [...found].filter(([, places]) => places.length > 1).map(([code, places]) => at({
    code: 'host.key-twice', id: `host.key-twice ${owner.id} ${code}`, severity: 'caution',
    title: `${owner.name}: ${code} twice`,
    sentence: `It is at ${places.join(' and at ')}: programs cannot tell them apart. Give one another key, or leave it `
      + 'so on purpose.',
    subjects: [{ partId: owner.id }],
  }))
})

/** More than the board or the card holds. */
export const memoryAndCard: Rule = ({ facts }) => {
  const { memory, card } = hostBudgets(facts)
  const larger = thingsFor('card', facts.board, facts.catalogue).find(({ thing }) =>
    thing!.card?.manySmallWrites && holdsMb(thing!.card.gigabytes) >= card.totalMb)
  const over = (code: 'memory.short' | 'card.full', budget: typeof memory, title: string, sentence: string,
    fixes: Fix[] = []): Finding[] =>
    budget.availableMb !== null && budget.totalMb > budget.availableMb
      ? [at({
          code, id: code, severity: 'caution', stages: ['boot', 'board'], title, sentence, fixes,
          figures: [{ label: 'together', value: Math.round(budget.totalMb), unit: 'MB', limit: budget.availableMb,
            origin: 'practice' }],
        })]
      : []
  return facts.plan.host.keeps.length || facts.plan.host.memoryMb !== undefined
    ? [
        ...over('memory.short', memory, 'More is kept loaded than the board has memory',
          'What does not fit is put aside on the card, slowly, or the program is ended '
          + 'in the middle. Keep less loaded, or take a board with more.'),
        ...over('card.full', card, 'More lies on the card than it should hold',
          'A card without free room wears fast, and a full one stops the system. Take a larger '
          + 'one, or keep less on it.',
          larger
            ? [{ label: `Take ${larger.name}`,
                edits: thingEdits(facts.plan, 'card', larger, facts.catalogue) }]
            : []),
      ]
    : []
}
