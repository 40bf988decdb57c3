/**
 * A sitting at the prompt of the simulated board: what commands and hands do, one after the other. How commands print
 * is a matter of the reference tests.
 */
import { describe, expect, it } from 'vitest'
import { ACTS, Session } from '../../../core/simulated/session'
import { minutesOf } from '../../../core/simulated/session-minutes'
import { boardState } from '../../../core/simulated/state'
import type { Plan } from '../../../core/plan/types'
import { planOf } from '../../plans'
import { factsOf, hive, kiosk, said, signals, sitting } from '../../sessions'

describe('at the prompt', () => {
  it('lines go one after the other: folders, variables and files stay', async () => {
    const session = sitting(hive)
    expect(session.prompt).toBe('maker@bench:~ $ ')
    expect(await said(session, 'cd /sys/bus', 'X=5', 'echo hi > /tmp/a', 'echo $X $(cat /tmp/a)')).toBe('5 hi\n')
    expect(session.prompt).toBe('maker@bench:/sys/bus $ ')
    expect(await said(session, 'ls w1/devices | wc -l')).toBe('4\n')
    expect(await said(session, 'nope')).toBe('bash: nope: command not found\n')
    expect((await session.run('cat /nope')).status).toBe(1)
    expect(await said(session, 'python3 x.py')).toContain('not on the simulated board')
    expect(await said(session, 'while true; do :; done')).toContain('comes to no end')
    expect(await said(session, 'echo 1 > /proc/uptime')).toBe('bash: /proc/uptime: Permission denied\n')
    expect(await said(session, 'x'.repeat(5000))).toContain('4096 characters')
  })

  it('time passes on the board alone', async () => {
    const session = sitting(hive)
    expect(await said(session, 'sleep 3600', 'uptime')).toMatch(/up 1:0\d,/)
    expect(await said(session, 'date +%F')).toBe('2026-04-18\n')
  })

  it('a driver holds its address; the others give their registers', async () => {
    const session = sitting(hive)
    expect(await said(session, 'i2cdetect -y 1 | grep ^60'))
      .toBe('60: -- -- -- -- -- -- -- -- UU -- -- -- -- -- -- -- \n')
    expect(await said(session, 'i2cget -y 1 0x68 0')).toContain('Device or resource busy')
    expect(await said(session, 'i2cget -y 1 0x76 0xd0')).toBe('0x60\n')
    expect(await said(session, 'i2cget -y 1 0x50 0')).toBe('Error: Read failed\n')
    expect(await said(session, 'i2cset -y 1 0x3c 0x10 0xaf', 'i2cget -y 1 0x3c 0x10')).toBe('0xaf\n')
    expect(await said(session, 'i2cget -y 1 0x3c 0x11')).toMatch(/^0x00\n\(what is in its registers is not known here/)
    expect(await said(session, 'i2cdetect -y 7')).toContain('/dev/i2c-7')
    expect(await said(session, 'i2cdetect')).toContain('No i2c-bus')
  })

  it('the clock reads back as the time that it is', async () => {
    const session = sitting(hive)
    // 15:00 and some seconds on 18 April 2026, as decimal digits in four bits each.
    const [, minute, hour, , day, month,
      year] = (await said(session, ...[0, 1, 2, 3, 4, 5, 6].map(at => `i2cget -f -y 1 0x68 ${at}`))).trim().split('\n')
    expect([minute, hour, day, month, year]).toEqual(['0x00', '0x15', '0x18', '0x04', '0x26'])
  })

  it('lines are read, set and watched, in the manner of both versions', async () => {
    const plan = planOf('forty-usb-c', { key: ['button-1', {}], lamp: ['led-plain', {}] }, {
      supply: { type: 'adapter-5v-3a' },
      assignments: { 'key.b': { position: 11 }, 'key.gnd': { position: 9 }, 'lamp.a': { position: 13 },
        'lamp.k': { position: 14 } },
    })
    const one = sitting(plan)
    // Position 11 is line 17: handbook, table of the header. A key to ground needs its line pulled up.
    expect(await said(one, 'gpioget --bias=pull-up gpiochip0 17')).toBe('1\n')
    expect(await said(one, ':press key.b', 'gpioget gpiochip0 17')).toBe('key B: held\n0\n')
    expect(await said(one, ':release key.b', 'gpiomon gpiochip0 17',
      ':press key.b')).toMatch(/FALLING EDGE offset: 17 timestamp: \[ +\d+\.\d{9}\]/)
    expect(await said(one, 'gpioset gpiochip0 27=1', ':volt 13 9')).toBe('3.30 V\n')
    expect(await said(one, 'gpioset gpiochip0 27=0', ':volt 13 9')).toBe('0.00 V\n')
    expect(await said(one, 'gpioget gpiochip9 1'))
      .toBe('gpioget: error reading GPIO values: No such file or directory\n')
    const two = sitting(plan, undefined, 2)
    expect(await said(two, 'gpioget -b pull-up -c gpiochip0 17')).toBe('"17"=active\n')
    expect(await said(two, 'gpioget gpiochip0 17')).toContain('say the chip')
  })

  it('a driver has its line: nobody else gets it', async () => {
    const session = sitting(hive)
    expect(await said(session, 'gpioinfo | grep -c used]')).toBe('2\n')
    expect(await said(session, 'gpioget gpiochip0 24')).toContain('Device or resource busy')
  })

  it('a port brings what is sent at its rate, and something else at another', async () => {
    const session = sitting(hive)
    expect(await said(session, 'stty -F /dev/serial0 115200', 'echo AT > /dev/serial0', 'cat /dev/serial0'))
      .toBe('\r\nOK\r\n')
    expect(await said(session, 'stty -F /dev/serial0 9600', 'echo AT > /dev/ttyS0',
      'cat /dev/ttyS0')).not.toContain('OK')
    expect(await said(sitting(hive, 'swap:modem.tx@10:modem.rx@8'), 'stty -F /dev/serial0 115200',
      'echo AT > /dev/serial0',
      'cat /dev/serial0')).toBe('')
    expect(await said(session, 'stty -F /dev/nope')).toContain('No such file')
    expect(await said(session, 'stty -F /dev/serial0 12345')).toContain('invalid argument ‘12345’')
    expect(await said(session, ':loop /dev/serial0 on', 'echo round > /dev/serial0', 'cat /dev/serial0'))
      .toContain('joined')
  })

  it('what is measured follows the room: breath, a floor up, warmth', async () => {
    const session = sitting(hive)
    const air = () => boardState(session).parts.find(({ id }) => id === 'air')!.reads.map(({ value }) => value)
    const [celsius, humidity, pressure] = air() as [number, number, number]
    await said(session, ':breathe air', ':wait 3')
    expect(air()[1]).toBeGreaterThan(humidity + 20)
    await said(session, ':wait 300')
    expect(air()[1]).toBeCloseTo(humidity, 0)
    // Published: ISO 2533: 0.36 hPa a floor of three metres, near the sea.
    await said(session, ':set height 117')
    expect(air()[2]! - pressure).toBeCloseTo(0.36, 1)
    await said(session, ':set air 30')
    // The room is that of the plan's load test, 34 °C.
    expect(air()[0]).toBeCloseTo(celsius - 4, 5)
    expect(await said(session, 'cat /sys/bus/w1/devices/28-*/temperature | head -1')).toBe('30000\n')
    expect(await said(session, ':set air 900')).toContain('from -40 to 85')
  })

  it('a plug pulled takes its node along, and the kernel says so', async () => {
    const plan = planOf('forty-usb-c', { stick: ['controller-5v-serial', { link: 'usb' }] },
      { supply: { type: 'adapter-5v-3a' } })
    const session = sitting(plan)
    expect(await said(session, 'ls /dev/ttyACM*')).toBe('/dev/ttyACM0\n')
    expect(await said(session, 'cat /dev/ttyACM0')).toMatch(/^count \d+\r\n/)
    expect(await said(session, ':pull stick', 'ls /dev/ttyACM*', 'dmesg | tail -1'))
      .toMatch(/No such file[^]*USB disconnect/)
    expect(await said(session, ':plug stick', 'dmesg | tail -1')).toContain('ttyACM0: USB ACM device')
    expect(await said(session, 'lsusb | wc -l')).toBe('2\n')
  })

  it('the power is switched, and resistance is measured without it alone', async () => {
    const session = sitting(hive)
    expect(await said(session, ':ohm 1 6')).toContain('Power off')
    expect(await said(session, 'sudo poweroff', ':ohm 1 6', 'ls',
      ':volt 1 6')).toMatch(/supply is off[^]*650 Ω\nNothing answers[^]*0\.00 V/)
    expect(await said(session, ':on', 'uptime')).toContain('up 0 min')
    expect(await said(sitting(hive, 'card'), 'ls')).toContain('red alone')
  })

  it('the boot file on the card lacks what the fault took, and stands in another copy where that is it', async () => {
    expect(await said(sitting(hive), 'grep -c ^dtoverlay=w1-gpio /boot/firmware/config.txt')).toBe('1\n')
    expect(await said(sitting(hive, 'line:dtoverlay=w1-gpio,gpiopin=4'),
      'grep -c ^dtoverlay=w1-gpio /boot/firmware/config.txt')).toBe('0\n')
    expect(await said(sitting(hive, 'hidden:dtoverlay=w1-gpio,gpiopin=4'),
      'tail -2 /boot/firmware/config.txt')).toBe('[another-board]\ndtoverlay=w1-gpio,gpiopin=4\n')
    expect(await said(sitting(hive, 'line:copy'),
      'grep -c ^dtoverlay=w1-gpio /boot/firmware/config.txt /boot/config.txt'))
      .toBe('/boot/firmware/config.txt:0\n/boot/config.txt:1\n')
  })

  it('says what it is: model, kernel, cards, links, services', async () => {
    const session = sitting(kiosk)
    expect(await said(session, 'cat /proc/device-tree/model')).toBe('Forty-position board, USB-C, extra serial buses\0')
    expect(await said(session, 'aplay -l')).toMatch(/^\*\*\*\* List of PLAYBACK Hardware Devices \*\*\*\*\ncard 0: /)
    expect(await said(session, 'ip a')).toContain('inet 192.0.2.17/24')
    expect(await said(session, 'systemctl status ssh', 'systemctl status nope'))
      .toMatch(/active \(running\)[^]*could not be found/)
    expect(await said(session, 'lsmod | head -1')).toBe('Module                    Size  Used by\n')
    expect(await said(sitting(signals), 'i2cdetect -y 1 | grep ^20')).toContain('UU')
  })

  it('under load it warms as the load test has it, the fan comes on, and without its fan it gets hotter', async () => {
    const temperature = async (session: Session) =>
      Number((await said(session, 'cat /sys/class/thermal/thermal_zone0/temp'))) / 1000
    const session = sitting(hive)
    const rest = await temperature(session)
    expect(await said(session, 'cat /sys/class/thermal/cooling_device0/cur_state')).toBe('0\n')
    await said(session, ':load on', ':wait 1800')
    const busy = await temperature(session)
    expect(busy).toBeGreaterThan(rest + 1)
    const broken = sitting(hive, 'dead:vent')
    await said(broken, ':load on', ':wait 1800')
    expect(await temperature(broken)).toBeGreaterThan(busy + 0.5)
    await said(session, ':load off', ':wait 3600')
    expect(await temperature(session)).toBeCloseTo(rest, 1)
    // Warmer air carries over, degree for degree, while the fan stands still: textbook, T = Ta + P·R.
    await said(session, ':set air 24')
    expect(await temperature(session)).toBeCloseTo(rest - 10, 1)
  })

  it('the clock of the kernel is read where its node is, and told missing where not', async () => {
    expect(await said(sitting(hive), 'sudo hwclock -r')).toMatch(/^2026-04-18 15:00:\d\d\.\d{6}\+00:00\n$/)
    expect((await sitting(hive, 'dead:clock').run('hwclock')).status).toBe(1)
  })

  it('help, history and clear are there, and a scan without -y warns', async () => {
    const session = sitting(hive)
    expect(await said(session, 'help')).toMatch(/i2cdetect[^]*hands: ":help"/)
    expect(await said(session, 'clear')).toBe('')
    expect(await said(session, 'i2cdetect 1')).toMatch(/70: [^]*WARNING! This program can confuse your I2C bus/)
    expect(await said(session, 'history')).toContain('    2  i2cdetect 1\n')
  })

  it('every act that is listed is known, and says what it takes', async () => {
    const session = sitting(hive)
    const help = await said(session, ':help')
    for (const { act, takes } of ACTS) {
      expect(help).toContain(`:${act}`)
      expect(await said(session, `:${act}`)).not.toContain('There is no')
      if (takes && !takes.includes('|')) expect((await session.run(`:${act}`)).status).toBe(1)
    }
    expect(await said(session, ':dance')).toContain(':help')
    expect([minutesOf('ls'), minutesOf(':volt 1 6'), minutesOf(':wait 120'), minutesOf('# note')])
      .toEqual([0.5, 1.5, 2, 0])
  })

  it('a plan without a board has none to switch on', () => {
    expect(() => new Session(factsOf({ ...hive, board: null } as Plan))).toThrow(/choose one/)
  })
})
