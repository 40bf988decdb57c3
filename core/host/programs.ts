/**
 * Programs that start by themselves. published: systemd.service(5); freedesktop Desktop Entry
 * and Autostart specifications
 */
import type { Facts } from '../facts/types'
import type { HostRun } from '../plan/host-shape'
import { desktopWord, needsShell, serviceWord, wordsOfCommand } from './quoting'
import type { Row, SmallFile } from './types'

/** The words that are started: through a shell where the command is more than words. */
const startedBy = (command: string): string[] => needsShell(command)
  ? ['/bin/sh', '-c', command]
  : wordsOfCommand(
    command) ?? ['/bin/sh', '-c', command]

/** Relays and other drivers with their line and the level at which nothing is switched. */
export function idleOutputs(facts: Facts): { line: number, level: 0 | 1, name: string }[] {
  return facts.terminals.flatMap(({ signal, place, owner, between }) => {
    if (signal?.role !== 'line' || !signal.idleLevel || place?.kind !== 'header'
      || place.header.line === undefined) return []
    if (!owner.part.contacts && signal.load === undefined) return []
    const isTurned = between?.kind === 'transistor' || between?.kind === 'mosfet'
    const level = (signal.idleLevel === 'high') !== (isTurned && signal.load === undefined) ? 1 : 0
    return [{ line: place.header.line, level: level as 0 | 1, name: `${owner.name}, ${signal.label}` }]
  })
}

/** A service that starts the program and looks after it. */
export function service(run: HostRun, facts: Facts, groups: readonly string[]): SmallFile {
  const { host, name: plan } = facts.plan
  const words = startedBy(run.command)
  const outputs = idleOutputs(facts)
  const named = outputs.map(({ name }) => name).join('; ')
  const rows: Row[] = [
    ['[Unit]', ''], [`Description=${`${run.name} (${plan})`.replaceAll('%', '%%').replace(/[\r\n\\]/g, ' ')}`,
      'What lists call it.'],
    ...run.network
      ? [['Wants=network-online.target', ''] as Row, ['After=network-online.target',
          'Waits until the network is there.'] as Row]
      : [],
    ['', ''], ['[Service]', ''], ['Type=simple', 'It runs until it ends.'],
    ...host.user ? [[`User=${host.user}`, 'Not as root: what goes wrong stays small.'] as Row] : [],
    ...groups.length ? [[`SupplementaryGroups=${groups.join(' ')}`, 'May use what this plan needs.'] as Row] : [],
    ...run.folder ? [[`WorkingDirectory=${run.folder.replaceAll('%', '%%')}`, 'Where it is started.'] as Row] : [],
    [`ExecStart=${words.map(serviceWord).join(' ')}`, words[0] === '/bin/sh'
      ? 'The program, by a shell: there is more in it than words.'
      : 'The program.'],
    ...outputs.length
      ? [[`ExecStopPost=-/usr/bin/gpioset gpiochip0 ${outputs.map(({ line, level }) => `${line}=${level}`).join(' ')}`,
          `Let go however it ends: ${named}. See with gpioinfo that gpiochip0 holds the header; libgpiod 2 wants -c.`] as Row]
      : [],
    [`Restart=${run.restart === 'never' ? 'no' : run.restart ?? 'on-failure'}`, run.restart === 'never'
      ? 'Once ended it stays so.'
      : 'Started anew when it fails …'],
    ...run.restart === 'never' ? [] : [['RestartSec=5', '… after five seconds.'] as Row],
    ...run.realTime
      ? [['LimitRTPRIO=95',
          'May go before everything else: sound without gaps. A service does not read limits.d.'] as Row,
        ['LimitMEMLOCK=infinity',
          'Its memory is not put aside.'] as Row]
      : [],
    ['', ''], ['[Install]', ''], ['WantedBy=multi-user.target', 'Started with the board once it is enabled.'],
  ]
  return {
    what: `${run.name} by itself`, path: `/etc/systemd/system/${run.name}.service`, owner: 'root', mode: '0644', rows,
    after: { is: 'reload', command: `systemctl daemon-reload && systemctl enable --now ${run.name}.service` },
    checkedBy: `systemd-analyze verify ${run.name}.service`,
  }
}

/** A program or a page that starts with the desktop. */
export function desktopEntry(run: HostRun, facts: Facts): SmallFile {
  const isPage = run.how === 'page'
  const words = isPage
    ? ['chromium', '--kiosk', '--noerrdialogs', '--disable-session-crashed-bubble', run.command]
    : startedBy(run.command)
  const rows: Row[] = [
    ['[Desktop Entry]', ''], ['Type=Application', ''], [`Name=${run.name}`, 'What menus call it.'],
    [`Exec=${words.map(desktopWord).join(' ')}`, isPage
      ? 'The page over the whole screen, without bars. Alt and F4 end it.'
      : 'The program.'],
    ...run.folder ? [[`Path=${run.folder.replaceAll('\\', '\\\\')}`, 'Where it is started.'] as Row] : [],
    ['Terminal=false', ''],
  ]
  return {
    what: isPage ? 'A page with the desktop' : `${run.name} with the desktop`,
    path: `${homeOf(facts)}/.config/autostart/${run.name}.desktop`,
    owner: facts.plan.host.user ?? 'the user', mode: '0644', rows, after: { is: 'new login' },
    checkedBy: `desktop-file-validate ${run.name}.desktop`,
  }
}

/** Keys on the screen. */
export function screenKeys(facts: Facts): SmallFile | null {
  const command = facts.plan.host.screenKeys
  if (!command) return null
  return {
    what: 'Keys on the screen', path: `${homeOf(facts)}/.config/autostart/screen-keys.desktop`,
    owner: facts.plan.host.user ?? 'the user', mode: '0644',
    after: { is: 'new login' }, checkedBy: 'desktop-file-validate screen-keys.desktop', rows: [
      ['[Desktop Entry]', ''], ['Type=Application', ''], ['Name=Screen keys', ''],
      [`Exec=${startedBy(command).map(desktopWord).join(' ')}`, 'The program that shows them.'],
      ['Terminal=false', ''],
    ],
  }
}

export const homeOf = ({ plan: { host } }: Facts) => {
  if (host.user === 'root') return '/root'
  return host.user ? `/home/${host.user}` : '~'
}
