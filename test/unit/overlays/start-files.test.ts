import { describe, expect, it } from 'vitest'
import { bundleOf } from '../../../core/boot/bundle'
import { rehearse } from '../../../core/boot/rehearse/rehearse'
import { gatherFacts } from '../../../core/facts/gather'
import { startFileOf, startFilesOf } from '../../../core/overlays/start-files'
import { placed, written } from '../../generated'
import { catalogue, planOf } from '../../plans'

const factsOf = (parts: Parameters<typeof planOf>[1]) =>
  gatherFacts(written(placed(planOf('forty-usb-c', parts))!), catalogue)

describe('a file of start commands', () => {
  const facts = factsOf({ screen: ['screen-spi-24', { rotation: '90' }] })
  const { name, bytes } = startFileOf(facts.parts[0]!, facts)!

  // published: Linux 6.1, drivers/gpu/drm/tiny/panel-mipi-dbi.c: 15 bytes of magic, version 1, then command,
  // count, parameters
  it('begins as its driver wants it, and holds whole commands', () => {
    expect(String.fromCharCode(...bytes.subarray(0, 8))).toBe('MIPI DBI')
    expect([...bytes.subarray(8, 16)]).toEqual([0, 0, 0, 0, 0, 0, 0, 1])
    const commands: number[] = []
    let at = 16
    while (at < bytes.length) {
      commands.push(bytes[at]!)
      at += 2 + bytes[at + 1]!
    }
    expect(at).toBe(bytes.length)
    // Out of sleep, a wait, on, a wait, which way up: in this order, as in drivers/gpu/drm/tiny/ili9341.c.
    expect(commands.slice(-5)).toEqual([0x11, 0x00, 0x29, 0x00, 0x36])
  })

  // published: Linux 6.1, drivers/gpu/drm/tiny/ili9341.c: MX, MV, MY, MV|MY|MX, each with BGR
  it.each([['0', 0x48], ['90', 0x28], ['180', 0x88], ['270', 0xE8]])('turns the picture by %s degrees',
    (rotation, mode) => {
      const turned = factsOf({ screen: ['screen-spi-24', { rotation }] })
      expect(startFileOf(turned.parts[0]!, turned)!.bytes.at(-1)).toBe(mode)
    })

  it('goes along with the boot files, by the name that the overlay asks for', () => {
    expect(name).toBe('panel.bin')
    const files = bundleOf(facts)
    expect(files.find(file => file.path === 'firmware/panel.bin')!.bytes).toEqual(bytes)
    expect(new TextDecoder().decode(files.at(-1)!.bytes)).toContain('/lib/firmware/')
    expect(rehearse(facts).parts[0]!.why).toContain('/lib/firmware/panel.bin')
  })

  it('is one for each of two screens: the second has an overlay and a file of its own', () => {
    const both = factsOf({ a: 'screen-spi-24', b: 'screen-spi-13' })
    expect(startFilesOf(both).map(file => file.name)).toEqual(['panel.bin', 'voltaris-b.bin'])
    const overlay = bundleOf(both).find(file => file.path === 'overlays/voltaris-b.dts')!
    expect(new TextDecoder().decode(overlay.bytes)).toContain('compatible = "voltaris-b", "panel-mipi-dbi-spi";')
  })

  it('is asked for by screens alone', () => {
    expect(startFilesOf(factsOf({ clock: 'clock-cell-i2c' }))).toEqual([])
  })
})
