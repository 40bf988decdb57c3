/**
 * Any plan with anything said of its board: names, addresses, programs, keys, in all the forms that the plan's
 * check lets through.
 */
import type { Host, HostRun } from '../core/plan/host-shape'
import type { Plan } from '../core/plan/types'
import { KEYS } from '../core/host/keys'
import { pick, random } from './random'

/** What people have started: with blanks, quotes, signs, and more than words. */
export const COMMANDS = [
  '/usr/bin/python3 -c "print(1)"', '/bin/sh -c \'echo "50 %" > /tmp/x\'', '/bin/echo $HOME | /usr/bin/tee /tmp/y',
  '/usr/bin/env FOO=1 /bin/true',
  '/bin/echo "a b" c\\ d', '/bin/echo 100% \\$5 "quoted \\"inside\\""', '/bin/sleep 5; /bin/true',
  '/bin/echo `date` ~ *',
  '/bin/echo é ü 漢',
  '/bin/echo a,b [c] "(d)"', '/bin/true', '/bin/echo "" last', `/bin/echo 'it'\\''s' "%n" %d`,
]
const PAGES = ['http://localhost:8080/', 'https://example.org/a?b=1&c=%20d', 'file:///home/keeper/page.html']
const NAMES = ['hive', 'a', 'Log-2', 'x_y', 'kiosk', 'panel2']
export const RADIOS = ['Garden', 'Café & Söhne', 'a b\'c', '100 %', '#1', 'say "hi"; \\o/', ' ends ']
const KEY = 'ssh-ed25519 AAAAC3NzaC1lZDI1NTE5AAAAIGq0bN2zRMvBp3Y2l7y2eC4eZr6X6yQm1k3m0C9o2b7V maker@bench'

/** Everything about a board, drawn from a seed. Matrix keys go to the parts given. */
export function anyHost(seed: number, matrices: readonly { id: string, rows: number, columns: number }[] = []): Host {
  const next = random(seed * 48_611 + 17)
  for (let i = 0; i < 4; i++) next()
  const chance = (share: number) => next() < share
  const whole = (max: number) => Math.floor(next() * max)
  const run = (i: number): HostRun => {
    const how = pick(next, ['service', 'desktop', 'page'] as const)
    return {
      id: `r${i}`, name: `${pick(next, NAMES)}${i}`, how,
      command: how === 'page' ? pick(next, PAGES) : pick(next, COMMANDS),
      ...chance(0.5) && { folder: pick(next, ['/tmp', '/usr/share/doc', '/var/lib/my things']) },
      ...chance(0.6) && { restart: pick(next, ['never', 'on-failure', 'always'] as const) },
      ...chance(0.4) && { network: true },
      ...chance(0.3) && { realTime: true },
    }
  }
  const key = () => ({
    code: pick(next, KEYS)[0], ...chance(0.6) && { types: pick(next, ['a', 'é', 'ß', '漢', '€', '"', '\\', '😀']) },
    ...chance(0.3)
    && { shifted: pick(next, ['A', '!', '¿']) },
  })
  return {
    ...chance(0.8) && { name: pick(next, ['hive', 'box-2', 'A1']) },
    ...chance(0.8) && { user: pick(next, ['keeper', 'a', 'm_1']) },
    ...chance(0.5) && { timeZone: pick(next, ['Europe/Rome', 'Etc/GMT+3', 'UTC']) },
    ...chance(0.5) && { language: pick(next, ['en_GB',
      'de_AT']) },
    ...chance(0.5) && { layout: pick(next, ['us', 'de', 'gb']) }, ...chance(0.5) && { remote: true },
    ...chance(0.4) && { keys: [KEY] },
    ...chance(0.5) && { radio: { network: pick(next, RADIOS), country: pick(next, ['AT', 'IT']) } },
    ...chance(0.6) && { address: {
      interface: pick(next, ['eth0', 'wlan0', 'end0']),
      address: `192.168.${whole(256)}.${1 + whole(254)}/${pick(next, [16, 24, 28])}`,
      ...chance(0.7) && { gateway: '192.168.7.1' }, ...chance(0.5) && { names: ['192.168.7.1', '9.9.9.9'] },
    } },
    runs: Array.from({ length: whole(4) }, (_, i) => run(i)),
    usbNames: Array.from({ length: whole(3) }, (_, i) => ({
      id: `u${i}`, name: `thing${i}`, by: pick(next, ['serial', 'socket'] as const),
      value: pick(next, ['A1B2', '1-1.2', '0001:00']),
      ...chance(0.6) && { vendor: '1a86', product: '7523' },
    })),
    ...chance(0.3) && { screenKeys: '/usr/bin/env keys --size 300' },
    ...chance(0.4) && { powerKey: pick(next, ['poweroff', 'reboot',
      'ignore'] as const) },
    matrix: Object.fromEntries(matrices.map(({ id, rows, columns }) => [id, Object.fromEntries(
      Array.from({ length: 6 }, () => [`${whole(rows)}.${whole(columns)}`, key()]),
    )])),
    keeps: [], files: {}, record: {},
  }
}

export const withHost = (plan: Plan, host: Host): Plan => ({ ...plan, host })
