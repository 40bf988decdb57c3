/**
 * Everything that is written beside the boot file, over generated plans, through the programs that read such files on a
 * board: Debian's `cloud-init schema`, `netplan generate`, `nmcli --offline`, `systemd-analyze verify`,
 * `desktop-file-validate`, `xkbcomp` and `dash -n`. Key codes against the kernel's header of Debian's linux-libc-dev.
 */
import { execFileSync, spawnSync } from 'node:child_process'
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { evaluateFacts } from '../../core/evaluate'
import { gatherFacts } from '../../core/facts/gather'
import { applyScript, isForCard } from '../../core/host/apply'
import { groupsFor } from '../../core/host/asks'
import { smallFilesOf } from '../../core/host'
import { KEYS } from '../../core/host/keys'
import { matrixSize } from '../../core/host/matrix'
import { textOf, type SmallFile } from '../../core/host/types'
import { needsShell, wordsOfCommand } from '../../core/host/quoting'
import { anyHost, COMMANDS, RADIOS, withHost } from '../host'
import { placedPlans } from '../generated'
import { catalogue, planOf } from '../plans'
import { judgedAtLeast } from '../random'

interface Made { seed: number, files: SmallFile[], script: string }

/** Twenty-four plans with everything said of their boards, two with a matrix of keys in each four. */
function generated(): Made[] {
  const plans = placedPlans(16, 4100, 5)
  const pads = [2, 3, 5, 8].map(rows => planOf('forty-classic',
    { Pad: ['keypad-matrix', { rows: String(rows), columns: '4' }],
      relay: 'relay-board-1' }))
  return [...plans, ...pads, ...pads].map((plan, seed) => {
    const matrices = gatherFacts(plan, catalogue).parts.flatMap((owner) => {
      const size = matrixSize(owner)
      return size ? [{ id: owner.id, ...size }] : []
    })
    const facts = gatherFacts(withHost({ ...plan, name: ['Plan', 'A "name" with % and \\', 'Über 100 %'][seed % 3]! },
      anyHost(seed,
        matrices)), catalogue)
    const { expected } = evaluateFacts(facts)
    const files = smallFilesOf(facts, expected)
    return { seed, files, script: applyScript(files, facts, groupsFor(facts, expected)) }
  })
}

const all = generated()
const files = (pattern: RegExp) => all.flatMap(({ seed, files: made }) => made.filter(({ path }) => pattern.test(path))
  .map(file => (
    { seed, file, text: textOf(file) })))
let folder = ''
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'small-files-'))
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const put = (name: string, text: string, mode = 0o600) => {
  const path = join(folder, name)
  mkdirSync(join(path, '..'), { recursive: true })
  writeFileSync(path, text)
  chmodSync(path, mode)
  return path
}
const run = (command: string, args: string[], input?: string) => {
  const { status, stdout, stderr } = spawnSync(command, args,
    { encoding: 'utf8', ...input !== undefined && { input }, timeout: 60_000 })
  return { status, said: `${stdout}${stderr}` }
}

/** What NetworkManager understood: its own writing of a name is escaped, or a list of bytes where it is not plain. */
function ssidOf(said: string): string {
  const written = /^ssid=(.*)$/m.exec(said)![1]!
  return /^(\d+;)+$/.test(written)
    ? Buffer.from(written.split(';').slice(0, -1).map(Number)).toString()
    : written.replace(/\\s/g, ' ').replaceAll('\\\\;', ';').replaceAll('\\\\', '\\')
}

describe('small files through the programs that read them', () => {
  it('are made in every kind', () => {
    for (const pattern of [/user-data$/, /network-config$/, /nmconnection$/, /\.service$/, /\.desktop$/, /\.rules$/,
      /xkb\/symbols/, /logind/]) {
      expect(files(pattern).length, String(pattern)).toBeGreaterThan(judgedAtLeast(2))
    }
  })

  it('first-boot settings pass cloud-init\'s schema', () => {
    const made = files(/user-data$/)
    // The program takes a second to start: texts that differ only in their names go once.
    const different = made.filter(({ text }, i) => made.findIndex(other => shape(other.text) === shape(text)) === i)
      .slice(0, 8)
    expect(different.length).toBeGreaterThan(3)
    for (const { text, seed } of different) {
      const { status, said } = run('cloud-init', ['schema', '--config-file', put(`user-data-${seed}`, text)])
      expect(said, text).toMatch(/Valid cloud-config/)
      expect(status, said).toBe(0)
    }
  })

  it('network files pass netplan', () => {
    for (const { text, seed } of files(/network-config$/)) {
      const root = join(folder, `net-${seed}`)
      mkdirSync(join(root, 'etc/netplan'), { recursive: true })
      put(`net-${seed}/etc/netplan/50.yaml`, text)
      const { status, said } = run('netplan', ['generate', '--root-dir', root])
      expect(`${status} ${said}`, text).toBe('0 ')
    }
  })

  it('fixed addresses pass NetworkManager, which gives the same address back', () => {
    const made = files(/nmconnection$/)
    for (const { text } of made) {
      const { status, said } = run('nmcli', ['--offline', 'connection', 'modify', 'connection.autoconnect', 'yes'],
        text)
      expect(status, `${said}\n${text}`).toBe(0)
      expect(said).toContain(/^address1=.*$/m.exec(text)![0])
      // The name of the network is read as it was meant.
      if (/^ssid=/m.test(text)) expect([...RADIOS, 'network']).toContain(ssidOf(said))
    }
    expect(run('nmcli', ['--offline', 'connection', 'modify', 'connection.autoconnect', 'yes'],
      made[0]!.text.replace(/^address1=\d+/m, 'address1=999')).status).not.toBe(0)
  })

  it('services pass systemd', () => {
    for (const { text, seed, file } of files(/\.service$/)) {
      const { status, said } = run('systemd-analyze',
        ['verify', '--man=no', put(`units-${seed}/${basename(file.path)}`, text, 0o644)])
      // What this machine does not have, as users and programs of the board, is no fault of the file.
      const faults = said.split('\n')
        .filter(line => line.includes(basename(file.path)) && !/gpioset is not executable/.test(line))
      expect(faults, text).toEqual([])
      if (!/gpioset/.test(text)) expect(status, said).toBe(0)
    }
  })

  it('the words of a command are those that a shell takes', () => {
    for (const command of COMMANDS.filter(entry => !needsShell(entry))) {
      const { stdout } = spawnSync('dash', ['-c', `set -- ${command}; for word; do printf '%s\\0' "$word"; done`],
        { encoding: 'utf8' })
      expect(wordsOfCommand(command), command).toEqual(stdout.split('\0').slice(0, -1))
    }
  })

  it('desktop entries pass the validator', () => {
    for (const { text, seed, file } of files(/\.desktop$/)) {
      const { status, said } = run('desktop-file-validate',
        [put(`desktop-${seed}/${basename(file.path)}`, text, 0o644)])
      expect(`${status} ${said}`, text).toBe('0 ')
    }
  })

  it('keys that type something of their own compile', () => {
    for (const { text, seed } of files(/xkb\/symbols/)) {
      put(`xkb-${seed}/symbols/pad`, text)
      const map = put(`xkb-${seed}/map.xkb`,
        'xkb_keymap { xkb_keycodes { include "evdev+aliases(qwerty)" }; xkb_types { include "complete" }; '
        + 'xkb_compat { include "complete" }; xkb_symbols { include "pc+pad+inet(evdev)" }; };\n')
      const { status, said } = run('xkbcomp',
        ['-w', '0', `-I${join(folder, `xkb-${seed}`)}`, '-I/usr/share/X11/xkb', '-xkb', map, '-'])
      expect(status, `${said}\n${text}`).toBe(0)
      for (const match of text.matchAll(/key <(\w+)> \{ \[ (U[0-9A-F]+)/g)) expect(said, match[0])
        .toMatch(new RegExp(`key\\s+<${match[1]}>`))
    }
  })

  it('the script that puts them in place is a script for any shell, and does it', () => {
    for (const { script, seed, files: made } of all) {
      const path = put(`apply-${seed}.sh`, script, 0o755)
      expect(`${run('dash', ['-n', path]).status}`, script).toBe('0')
      if (seed > 5) continue
      // Carried out beside the real places: owners and commands of the board are stood in for.
      const root = join(folder, `root-${seed}`)
      const here = script.replace(/^put \/?/gm, `put ${root}/`).replace(/^(systemctl|udevadm|nmcli|usermod)\b.*$/gm,
        ':').replace(/^\[ "\$\(id -u\)".*$/m, '')
        .replace(/ {2}chown .*\n/, '').replace(/~\//g, 'home/').replace(/case \$1 in .*esac/, ':')
        .replace(/then usermod .*/, 'then :')
      execFileSync('dash', ['-c', here], { stdio: 'pipe' })
      for (const file of made.filter(entry => !isForCard(entry))) {
        const there = join(root, file.path.replace('~/', 'home/'))
        expect(existsSync(there), there).toBe(true)
        expect(readFileSync(there, 'utf8')).toBe(textOf(file))
      }
    }
  })

  it('keys have the kernel\'s codes', () => {
    const header = readFileSync('/usr/include/linux/input-event-codes.h', 'utf8')
    const codes = new Map([...header.matchAll(/^#define\s+(KEY_\w+)\s+(\d+)\b/gm)].map(match =>
      [match[1]!, Number(match[2])]))
    expect(KEYS.length).toBeGreaterThan(150)
    for (const [name, code] of KEYS) expect([name, codes.get(name)]).toEqual([name, code])
  })
})

const shape = (text: string) => text.replace(/: .*/g, ':')
