/** What the board is told beside its boot file: as laws over drawn boards, and by hand. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate, evaluateFacts } from '../../../core/evaluate'
import { gatherFacts } from '../../../core/facts/gather'
import { smallFilesOf } from '../../../core/host'
import { networkOf } from '../../../core/host/address'
import { applyScript } from '../../../core/host/apply'
import { groupsFor, switchedOn } from '../../../core/host/asks'
import { hostBudgets } from '../../../core/host/budgets'
import { capOf, keyAt, keyTyping } from '../../../core/host/matrix'
import { ownedText } from '../../../core/host/owned'
import { idleOutputs } from '../../../core/host/programs'
import { desktopWord, serviceWord } from '../../../core/host/quoting'
import { textOf } from '../../../core/host/types'
import { applyEdit, type Edit } from '../../../core/plan/edits'
import { overlayForPart } from '../../../core/overlays/write'
import type { Host } from '../../../core/plan/host-shape'
import { readPlan } from '../../../core/plan/read'
import { anyHost, withHost } from '../../host'
import { catalogue, fixedAt, planOf } from '../../plans'
import { draws } from '../../random'

const told = (parts: Parameters<typeof planOf>[1], host: Partial<Host>, more: Parameters<typeof planOf>[2] = {}) => {
  const plan = planOf('forty-usb-c', parts, more)
  return { ...plan, host: { ...plan.host, ...host } }
}
const filesOf = (plan: ReturnType<typeof told>) => {
  const facts = gatherFacts(plan, catalogue)
  return smallFilesOf(facts, evaluateFacts(facts).expected)
}
const fileAt = (plan: ReturnType<typeof told>, end: string) => {
  const file = filesOf(plan).find(({ path }) => path.endsWith(end))
  return file ? textOf(file) : null
}
const codes = (plan: ReturnType<typeof told>) =>
  evaluate(plan, catalogue).findings.map(({ code }) => code).filter(code => /^(host|memory|card\.full)/.test(code))
const run = (more: Partial<Host['runs'][0]> = {}) => ({ id: 'r', name: 'hive', how: 'service' as const,
  command: '/usr/bin/python3 /home/keeper/hive.py', ...more })

describe('every small file', () => {
  it('says where it goes, who owns it and when it counts, each at a path of its own; nothing said, nothing written',
    () => {
      expect(filesOf(told({}, {}))).toEqual([])
      fc.assert(fc.property(fc.integer({ min: 1, max: 5000 }), (seed) => {
        const files = filesOf(withHost(planOf('forty-usb-c', { relay: 'relay-board-1' }),
          anyHost(seed)) as ReturnType<typeof told>)
        expect(new Set(files.map(({ path }) => path)).size).toBe(files.length)
        for (const file of files) {
          expect(file.path).toMatch(/^[~/]/)
          expect(file.mode).toMatch(/^0[0-7]{3}$/)
          expect(file.rows.every(([line]) => !line.includes('\n') && !/\s$/.test(line))).toBe(true)
        }
      }), { numRuns: draws(150) })
    })

  it('is let through by the plan\'s check with whatever it is made from', () => {
    for (let seed = 1; seed < 60; seed++) {
      const plan = withHost(planOf('forty-usb-c', {}), anyHost(seed))
      expect(readPlan(JSON.parse(JSON.stringify(plan)))).toMatchObject({ ok: true })
    }
  })

  it('keeps no secret: there is a place for it, and the file says so', () => {
    const plan = told({}, { user: 'keeper', radio: { network: 'Garden', country: 'AT' } })
    expect(fileAt(plan, 'user-data')).toContain('# passwd: "the hash goes here"')
    expect(fileAt(plan, 'network-config')).toContain('# password: "the key of the network goes here"')
    expect(filesOf(plan).filter(({ secret }) => secret).map(({ what }) => what)).toEqual(['First-boot settings',
      'Network at the first start'])
    expect(readPlan({ ...plan, host: { ...plan.host, record: { passwordAt: 'red notebook' } } }).ok).toBe(true)
  })
})

describe('a service', () => {
  it('runs as the user, in the groups that the parts need, and lets relays go when it ends', () => {
    const plan = told({ air: 'pressure-humidity-i2c', relay: 'relay-board-4' },
      { user: 'keeper', runs: [run({ network: true,
        restart: 'always' })] }, {
        assignments: fixedAt({ 'air.sda': 3, 'air.scl': 5, 'relay.in1': 29, 'relay.in2': 31 }),
      })
    const text = fileAt(plan, 'hive.service')!
    expect(text).toContain('User=keeper\n')
    expect(text).toContain('SupplementaryGroups=gpio i2c\n')
    expect(text).toContain('After=network-online.target\n')
    expect(text).toContain('Restart=always\n')
    // Low-level trigger: at rest the lines are high.
    expect(text).toContain('ExecStopPost=-/usr/bin/gpioset gpiochip0 5=1 6=1\n')
    expect(idleOutputs(gatherFacts(plan, catalogue)).map(({ line, level }) => [line, level])).toEqual([[5, 1], [6, 1]])
  })

  it('has its own limits for sound, as it reads no others', () => {
    expect(fileAt(told({}, { user: 'a', runs: [run({ realTime: true })] }), 'hive.service'))
      .toContain('LimitRTPRIO=95\n')
    expect(fileAt(told({}, { user: 'a', runs: [run({ realTime: true })] }), '95-sound.conf')).toBeNull()
    expect(fileAt(told({}, { user: 'a', runs: [run({ realTime: true, how: 'desktop' })] }), '95-sound.conf')).toContain(
      '@audio - rtprio 95')
  })

  // published: systemd.syntax(7), specifiers and quoting; Desktop Entry Specification, the Exec key
  it.each([['a b', '"a b"', '"a b"'], ['50%', '50%%', '50%%'], ['a"b', '"a\\"b"', '"a\\\\"b"'], ['', '""', '""'],
    ['c\\d', '"c\\\\d"',
      '"c\\\\\\\\d"']])(
    'writes the word %s as each format wants it', (word, unit, desktop) => {
      expect(serviceWord(word)).toBe(unit)
      expect(desktopWord(word)).toBe(desktop)
    },
  )
})

describe('what parts ask of the system', () => {
  it('groups are those of their devices', () => {
    const plan = told({ air: 'pressure-humidity-i2c', screen: 'screen-spi-24', gps: 'positioning-serial',
      lamp: 'led-plain' }, {}, {
      assignments: fixedAt({
        'air.sda': 3, 'air.scl': 5, 'screen.sclk': 23, 'screen.mosi': 19, 'screen.select': 24, 'screen.dc': 22,
        'screen.reset': 13,
        'gps.tx': 10, 'gps.rx': 8, 'lamp.a': 29,
      }),
    })
    const facts = gatherFacts(plan, catalogue)
    expect(groupsFor(facts, evaluateFacts(facts).expected)).toEqual(expect.arrayContaining(['dialout', 'gpio', 'i2c']))
    expect(switchedOn(facts).map(({ what }) => what)).toEqual(['I²C', 'SPI', 'Serial port'])
  })

  it('a remote shell is said to be open to passwords, or to keys alone', () => {
    const opens = (host: Partial<Host>) => switchedOn(gatherFacts(told({}, host), catalogue))[0]!.opens
    expect(opens({ remote: true })).toContain('knows the password')
    expect(opens({ remote: true, keys: ['ssh-ed25519 AAAA a'] })).toContain('Passwords are refused')
    expect(codes(told({}, { remote: true }))).toEqual(['host.remote-open'])
    expect(codes(told({}, { remote: true, keys: ['ssh-ed25519 AAAA a'] }))).toEqual([])
  })
})

describe('addresses', () => {
  // published: RFC 4632, 3.1: 192.168.99.0/24 is a net of 256; RFC 919, 7: all ones reach everybody
  it('belong to nets', () => {
    const net = networkOf('192.168.99.77/26')
    expect([net.first, net.last, net.hosts, net.usualGateway])
      .toEqual(['192.168.99.64', '192.168.99.127', 62, '192.168.99.65'])
    expect(net.holds('192.168.99.100')).toBe(true)
    expect(net.holds('192.168.99.128')).toBe(false)
  })

  const address = (own: string,
    gateway?: string) => told({}, { address: { interface: 'eth0', address: own, ...gateway && { gateway } } })

  it('of the net itself, of everybody, and routers elsewhere are told', () => {
    expect(codes(address('192.168.7.0/24'))).toEqual(['host.address-off'])
    expect(codes(address('192.168.7.255/24'))).toEqual(['host.address-off'])
    expect(codes(address('192.168.7.20/24', '192.168.8.1'))).toEqual(['host.gateway-off'])
    expect(codes(address('192.168.7.20/24', '192.168.7.20'))).toEqual(['host.gateway-off'])
    expect(codes(address('192.168.7.20/24', '192.168.7.1'))).toEqual([])
  })

  it('the fix of a router elsewhere fixes it', () => {
    const plan = address('192.168.7.20/24', '10.0.0.1')
    const [fix] = evaluate(plan, catalogue).findings.find(({ code }) => code === 'host.gateway-off')!.fixes
    expect(fix!.edits[0]).toMatchObject({ edit: 'set-host' })
    expect(codes(told({}, (fix!.edits[0] as unknown as { host: Partial<Host> }).host))).toEqual([])
  })
})

describe('findings about drawn boards', () => {
  it('law: a fix fixes, and brings no stop', () => {
    for (let seed = 1; seed < 120; seed++) {
      const plan = withHost(planOf('forty-usb-c', { relay: 'relay-board-1' }), anyHost(seed))
      const { findings } = evaluate(plan, catalogue)
      const stops = new Set(findings.filter(({ severity }) => severity === 'stop').map(({ id }) => id))
      for (const { id, code, fixes } of findings.filter(entry =>
        entry.code.startsWith('host.'))) for (const fix of fixes) {
        const after = evaluate(applyEdit(plan, { edit: 'all', edits: fix.edits }).plan, catalogue).findings
        expect(after.map(entry => entry.id), `${code} ${fix.label} ${seed}`).not.toContain(id)
        expect(after.filter(entry => entry.severity === 'stop' && !stops.has(entry.id))).toEqual([])
      }
    }
  })

  it('an address by radio wants the network named', () => {
    const address = { interface: 'wlan0', address: '192.168.7.20/24' }
    expect(codes(told({}, { address }))).toEqual(['host.radio-missing'])
    expect(codes(told({}, { address, radio: { network: 'Garden', country: 'AT' } }))).toEqual([])
  })
})

describe('findings about programs and names', () => {
  it('are made', () => {
    expect(codes(told({}, { runs: [run()] }))).toEqual(['host.no-user'])
    expect(codes(told({}, { user: 'root', runs: [run()] }))).toEqual(['host.no-user'])
    expect(codes(told({}, { user: 'a', runs: [run({ command: './run.py' })] }))).toEqual(['host.command-off'])
    // A file's name alone is looked for in /: its folder ends it, and one that is named already needs nothing.
    const lost = told({}, { user: 'a', runs: [run({ command: 'python3 run.py' })] })
    expect(codes(lost)).toEqual(['host.command-off'])
    const [fix] = evaluate(lost, catalogue).findings.find(({ code }) => code === 'host.command-off')!.fixes
    expect(codes(applyEdit(lost, { edit: 'all', edits: fix!.edits as Edit[] }).plan)).toEqual([])
    for (const fine of ['python3 /home/a/run.py', '~/run.py', 'python3 -m http.server',
      'sh -c "cd /srv && ./run.py"']) {
      expect(codes(told({}, { user: 'a', runs: [run({ command: fine })] })), fine).toEqual([])
    }
    expect(codes(told({}, { user: 'a', runs: [run({ command: 'python3 run.py', how: 'desktop' })] }))).toEqual([])
    expect(codes(told({}, { user: 'a', runs: [run({ command: 'python3 "x' })] }))).toEqual(['host.command-off'])
    expect(codes(told({}, { user: 'a', runs: [run({ how: 'page', command: 'localhost' })] })))
      .toEqual(['host.command-off'])
    expect(codes(told({}, { user: 'a', runs: [run(), run({ id: 's' })] }))).toEqual(['host.name-twice'])
    expect(codes(told({}, { user: 'a', runs: [run()] }))).toEqual([])
  })

  it('two like USB things can change names until both have one', () => {
    const two = { one: ['controller-3v3-serial', { link: 'usb' }], other: ['controller-3v3-serial',
      { link: 'usb' }] } as Parameters<typeof planOf>[1]
    expect(codes(told(two, {}))).toEqual(['host.usb-swap'])
    const usbNames = ['one', 'other'].map((name, i) => ({ id: name, name, by: 'serial' as const, value: `S${i}` }))
    expect(codes(told(two, { usbNames }))).toEqual([])
    expect(fileAt(told(two, { usbNames }), '72-usb-names.rules')).toContain('ATTRS{serial}=="S1", SYMLINK+="other"')
  })

  it('what is kept loaded and on the card is held against both', () => {
    const keeps = [{ id: 'k', what: 'samples', memoryMb: 900, cardMb: 20_000 }]
    expect(codes(told({}, { memoryMb: 1024, keeps }))).toEqual(['memory.short'])
    expect(codes(told({}, { memoryMb: 2048, keeps }))).toEqual([])
    expect(codes(told({ card: 'card-memory-16' }, { keeps }))).toEqual(['card.full'])
    const { memory, card } = hostBudgets(gatherFacts(told({ card: 'card-memory-128' }, { keeps, memoryMb: 2048 }),
      catalogue))
    expect(memory.totalMb).toBe(memory.takes.reduce((sum, { mb }) => sum + mb, 0))
    expect(card.availableMb).toBe(108_800)
  })
})

describe('a matrix of keys', () => {
  const plan = (matrix: Host['matrix']) => told({ pad: ['keypad-matrix', { rows: '2', columns: '2' }] },
    { user: 'a', matrix }, {
      assignments: fixedAt({ 'pad.row1': 29, 'pad.row2': 31, 'pad.col1': 33, 'pad.col2': 35 }),
    })
  const keymap = (matrix: Host['matrix']) => {
    const facts = gatherFacts(plan(matrix), catalogue)
    const made = overlayForPart(facts, facts.parts[0]!)
    return made.ok ? /linux,keymap = <(.*?)>/.exec(made.source)![1] : made.why
  }

  // published: bindings/input/matrix-keymap.txt: row << 24 | column << 16 | code; codes of input-event-codes.h
  it('tells the kernel the maker\'s keys, and one of its own at every other crossing', () => {
    expect(keymap({})).toBe('0x2 0x10003 0x1000004 0x1010005')
    expect(keymap({ pad: { '0.1': { code: 'KEY_A' }, '1.0': { code: 'KEY_ENTER' } } }))
      .toBe('0x2 0x1001e 0x100001c 0x1010005')
  })

  it('types what no key of the layout has', () => {
    const text = fileAt(plan({ pad: { '0.0': { code: 'KEY_A', types: 'é' },
      '0.1': { code: 'KEY_1', types: 'ß', shifted: '?' } } }),
    'symbols/pad')!
    expect(text).toContain('key <AC01> { [ U00E9, U00C9 ] };')
    expect(text).toContain('key <AE01> { [ U00DF, U003F ] };')
  })

  it('says when one key is at two crossings', () => {
    expect(codes(plan({ pad: { '0.0': { code: 'KEY_A' }, '1.1': { code: 'KEY_A' } } }))).toEqual(['host.key-twice'])
    expect(codes(plan({}))).toEqual([])
  })

  it('finds the key that types a character, and says what a key says', () => {
    expect(keyTyping('?')).toEqual({ code: 'KEY_SLASH', isShifted: true })
    expect(keyTyping('é')).toBeNull()
    expect(capOf({ code: 'KEY_A' })).toBe('A')
    expect(capOf({ code: 'KEY_ENTER' })).toBe('enter')
    expect(capOf({ code: 'KEY_1', types: 'ß', shifted: '?' })).toBe('ß ?')
    expect(keyAt('pad', 1, 1, 2, {}).code).toBe('KEY_4')
  })
})

describe('a file where it lies already', () => {
  const planned = 'a\nb\nc\n'
  it('is the plan\'s where nothing lies there, and follows the plan where nobody touched it', () => {
    expect(ownedText(planned, undefined)).toEqual({ text: planned, collides: false })
    expect(ownedText('a\nB\nc\n', { text: planned, written: planned })).toEqual({ text: 'a\nB\nc\n', collides: false })
  })

  it('keeps lines of somebody\'s own', () => {
    expect(ownedText('a\nB\nc\n', { text: 'a\nb\nc\nmine\n', written: planned }).text).toBe('a\nB\nc\nmine\n')
    expect(ownedText('a\nB\nc\n', { text: 'a\nmine\nc\n', written: planned }))
      .toEqual({ text: 'a\nmine\nc\n', collides: true })
    expect(ownedText(planned, { text: 'foreign\n' })).toEqual({ text: 'foreign\n', collides: true })
  })

  it('law: whoever added lines at the end keeps them, whatever the plan says now', () => {
    const lines = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1, maxLength: 8 })
      .map(list => `${list.join('\n')}\n`)
    fc.assert(fc.property(lines, lines, (before, now) => {
      const { text, collides } = ownedText(now, { text: `${before}# mine\n`, written: before })
      expect(text).toContain('# mine\n')
      if (!collides) expect(text.replace('# mine\n', '')).toBe(now)
    }))
  })
})

describe('the script', () => {
  it('keeps what was there, and says what has to follow', () => {
    const plan = told({ air: 'pressure-humidity-i2c' }, { user: 'keeper', runs: [run()], powerKey: 'poweroff' },
      { assignments: fixedAt(
        { 'air.sda': 3, 'air.scl': 5 }) })
    const facts = gatherFacts(plan, catalogue)
    const script = applyScript(filesOf(plan), facts, ['i2c'])
    expect(script).toContain('cp -p "$1" "$1.before"')
    expect(script).toContain('usermod -aG "$group" keeper')
    expect(script).toContain('systemctl enable --now hive.service')
    expect(script).toContain('restart the board')
    expect(script).not.toContain('user-data')
  })
})
