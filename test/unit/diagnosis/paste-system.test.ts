/**
 * What messages, lines, USB and probes say when they are pasted. Texts are what the simulated board prints, and by hand
 * after the formats named in `core/diagnosis/pasted/system.ts`.
 */
import { describe, expect, it } from 'vitest'
import { modelOf } from '../../../core/diagnosis/table'
import { readPasted } from '../../../core/diagnosis/pasted/paste'
import { Session } from '../../../core/simulated/session'
import { gatherFacts } from '../../../core/facts/gather'
import type { Plan } from '../../../core/plan/types'
import { demoPlans } from '../../../demo'
import { placedPlans } from '../../generated'
import { catalogue, planOf } from '../../plans'

const [hive] = demoPlans as [Plan]
const factsOf = (plan: Plan) => gatherFacts(plan, catalogue)
const probesOf = (plan: Plan) => modelOf(factsOf(plan)).table.probes
const hiveProbes = probesOf(hive)
const words = (text: string, probes = hiveProbes) => readPasted(text, probes, null).found.map(entry => entry.words)

/** What was typed and printed, with prompts, as it is copied off a screen. */
async function typed(session: Session, ...lines: string[]): Promise<string> {
  let text = ''
  for (const line of lines) {
    const { prompt, out, err } = await session.run(line)
    text += `${prompt}${line}\n${out}${err}`
  }
  return text
}

describe('pasted: what the system says', () => {
  it('reads whole whatever the simulated board offers to type, on every plan', async () => {
    for (const plan of [...demoPlans, ...placedPlans(3, 300, 6)]) {
      const probes = probesOf(plan)
      const session = new Session(factsOf(plan))
      const text = await typed(session, 'dmesg', 'gpioinfo', 'gpiodetect', 'gpioget gpiochip0 6', 'lsusb', 'uptime',
        'uname -a',
        'vcgencmd measure_temp',
        'vcgencmd get_throttled', 'aplay -l')
      const { found, unread } = readPasted(text, probes, null)
      expect(found.filter(({ kind }) => kind === 'refused')).toEqual([])
      // The details below a sound card's name say nothing more.
      expect(unread).toBe(0)
      expect(found.length).toBeGreaterThanOrEqual(8)
    }
  })

  it('a driver that gave up is told with what the number means', () => {
    expect(words('$ dmesg\n[    3.120000] rtc-ds1307: probe of 1-0068 failed with error -121'))
      .toEqual([expect.stringContaining('nobody answered on the bus')])
    expect(words('$ dmesg\n[    3.120000] spi-x: probe of spi0.0 failed with error -999'))
      .toEqual([expect.stringContaining('error 999')])
    expect(words('$ dmesg\n[    0.000000] Booting Linux'))
      .toEqual(['Messages of the kernel: nothing in them complains'])
    expect(words('$ dmesg\n[   12.0] pin gpio24 already requested by fan'))
      .toEqual([expect.stringContaining('Two want the same')])
  })

  it('under-voltage in the messages is a sighting of the load test', () => {
    const { found } = readPasted('$ dmesg -T\n[Sat Apr 18 15:00:22 2026] hwmon hwmon1: Undervoltage detected!',
      hiveProbes, null)
    expect(found).toMatchObject([{ kind: 'seen', probe: 'load', outcome: 'under-voltage, or it starts anew' }])
  })

  it('a plug is seen in the messages and in two lists, before and after', async () => {
    const plan = planOf('forty-usb-c', { stick: ['controller-5v-serial', { link: 'usb' }] },
      { supply: { type: 'adapter-5v-3a' } })
    const probes = probesOf(plan)
    const session = new Session(factsOf(plan))
    await session.run(':pull stick')
    const before = await typed(session, 'ls /dev', 'lsusb')
    await session.run(':plug stick')
    const { found } = readPasted(before + await typed(session, 'ls /dev', 'lsusb', 'dmesg | tail -1'), probes, null)
    expect(found).toEqual(expect.arrayContaining([
      expect.objectContaining({ kind: 'seen', probe: 'node:/dev/ttyACM0', outcome: 'it is there' }),
      expect.objectContaining({ words: 'ls /dev, before and after: new: ttyACM0' }),
      expect.objectContaining({ words: expect.stringMatching(/^lsusb, before and after: new: 1209:0001/) }),
    ]))
    expect(words('$ ls /dev\nnull\n$ ls /dev\nnull', probes)).toContain('ls /dev, before and after: the same')
    expect(words('$ ls /dev\nnull ttyUSB0\n$ ls /dev\nnull', probes))
      .toContain('ls /dev, before and after: gone: ttyUSB0')
  })

  it('a line that moved while it alone was watched is its test', async () => {
    const plan = planOf('forty-usb-c', { key: ['button-1', {}] }, {
      supply: { type: 'adapter-5v-3a' }, assignments: { 'key.b': { position: 11 }, 'key.gnd': { position: 9 } },
    })
    const probes = probesOf(plan)
    for (const [tools, command] of [[1, 'gpiomon gpiochip0 17'], [2, 'gpiomon -c gpiochip0 17']] as const) {
      const session = new Session(factsOf(plan), { lineTools: tools })
      await session.run(tools === 1 ? 'gpioget -B pull-up gpiochip0 17' : 'gpioget -b pull-up -c gpiochip0 17')
      const text = await typed(session, command)
      const { out } = await session.run(':press key.b')
      const event = out.split('\n').filter(line => /edge|falling/i.test(line)).join('\n')
      expect(readPasted(`${text}${event}`, probes, null).found).toEqual(expect.arrayContaining([
        expect.objectContaining({ kind: 'seen', probe: 'line:key.b', outcome: 'it moves' }),
      ]))
    }
    expect(words('$ gpiomon gpiochip0 17 27\nevent: RISING EDGE offset: 27 timestamp: [ 1.0]', probes))
      .toEqual(['Moved: G27'])
  })

  it('probes on 1-Wire: their figures, a sum that does not fit, and one that has not measured', async () => {
    const session = new Session(factsOf(hive))
    const { found } = readPasted(await typed(session, 'cat /sys/bus/w1/devices/28-*/w1_slave'), hiveProbes, null)
    expect(found).toEqual([
      expect.objectContaining({ kind: 'seen', probe: 'node:/sys/bus/w1/devices/28-*', outcome: 'it is there' }),
      { kind: 'said', words: 'Probes on 1-Wire: 34.0 °C, 34.0 °C, 34.0 °C, 34.0 °C' },
    ])
    const raw = '50 05 4b 46 7f ff 0c 10 1c'
    expect(words(`${raw} : crc=1c YES\n${raw} t=85000`)).toContainEqual(expect.stringContaining('before it measures'))
    expect(words(`${raw} : crc=00 NO\n${raw} t=-1250`)).toEqual(expect.arrayContaining([
      expect.stringContaining('its sum does not fit'), 'Probes on 1-Wire: -1.3 °C',
    ]))
  })

  it('what is not installed or not allowed is said so', () => {
    expect(words('$ gpioinfo\n-bash: gpioinfo: command not found'))
      .toEqual([expect.stringMatching(/^gpioinfo is not installed/)])
    expect(words('$ sh x\nsh: 1: i2cget: not found')).toEqual([expect.stringMatching(/^i2cget is not installed/)])
    expect(words('$ gpioget gpiochip0 4\ngpioget: error reading GPIO values: Permission denied'))
      .toContainEqual(expect.stringContaining('put "sudo" before it'))
  })

  it('lines that drivers have, ports and cards are said', () => {
    const one = ['\tline   0:      unnamed       unused   input  active-high ',
      '\tline   1:      unnamed "fan" output active-high [used]']
    expect(words(['gpiochip0 - 2 lines:', ...one].join('\n')))
      .toEqual(['Drivers have the lines G1 (fan)'])
    expect(words('gpiochip0 - 1 lines:\n\tline   4:\tunnamed         \tinput consumer="onewire@4"'))
      .toEqual(['Drivers have the lines G4 (onewire@4)'])
    expect(words('gpiochip0 - 1 lines:\n\tline   4:\tunnamed         \tinput'))
      .toEqual(['No driver has a line of the header'])
    expect(words('$ stty -F /dev/ttyS0\nspeed 9600 baud; line = 0;')).toEqual(['The port is set to 9600 bits a second'])
    expect(words('aplay: device_list:274: no soundcards found...')).toEqual(['There is no sound card'])
  })
})
