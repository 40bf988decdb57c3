import { execFileSync } from 'node:child_process'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { videoTiming } from '../../core/boot/display/cvt'
import { screenLines, TOUCH_FLAGS, TOUCH_MATRIX, type Rotation } from '../../core/boot/display/lines'
import { OVERLAYS, resolveOverlay, sourceOf } from '../../core/overlays/library'
import { baseSource, SETTING_NUMBER } from '../../core/devicetree/bases/base'
import { readBlob } from '../../core/devicetree/blob/read'
import { writeBlob } from '../../core/devicetree/blob/write'
import { applyOverlay } from '../../core/devicetree/overlay/apply'
import { compileText } from '../../core/devicetree/source/compile'
import { cellsOf, nodeAt, propertyOf } from '../../core/devicetree/types'
import { gatherFacts } from '../../core/facts/gather'
import { overlayBlob, overlayForPart } from '../../core/overlays/write'
import { placementEdits, placePlan } from '../../core/placement/place'
import { applyEdit } from '../../core/plan/edits'
import pinGroups from '../data/pin-groups.json'
import { dtcCompile, dtcPrint, dtcWarnings, fdtoverlay } from '../devicetree'
import { bindings, catalogue, planOf } from '../plans'
import { draws } from '../random'

/** reference program: `cvt` of Debian's package xcvt. */
function cvt(width: number, height: number, rate: number, reduced: boolean): number[] {
  const said = execFileSync('/usr/bin/cvt', [...reduced ? ['-r'] : [], String(width), String(height), String(rate)])
    .toString()
  return /Modeline "\S+"\s+([\d.]+)\s+(\d+) (\d+) (\d+) (\d+)\s+(\d+) (\d+) (\d+) (\d+)/.exec(said)!.slice(1)
    .map(Number)
}
const figures = (width: number, height: number, rate = 60, reduced = false) => {
  const timing = videoTiming(width, height, rate, reduced)
  return [timing.clockKhz / 1000, ...timing.horizontal, ...timing.vertical]
}

describe('video timing', () => {
  it('is that of the published table', () => {
    // published: VESA CVT 1.1
    expect(figures(800, 480)).toEqual([29.5, 800, 824, 896, 992, 480, 483, 493, 500])
    expect(figures(1024, 600)).toEqual([49, 1024, 1072, 1168, 1312, 600, 603, 613, 624])
    expect(figures(1920, 1080, 60, true)).toEqual([138.5, 1920, 1968, 2000, 2080, 1080, 1083, 1088, 1111])
  })

  it('is that of the reference program for any screen', () => {
    fc.assert(fc.property(
      fc.integer({ min: 160, max: 4096 }), fc.integer({ min: 120, max: 2400 }),
      fc.constantFrom(24, 30, 50, 60, 75, 85), fc.boolean(),
      (width, height, rate, short) => {
        const reduced = short && rate % 60 === 0
        expect(figures(width, height, rate, reduced)).toEqual(cvt(width, height, rate, reduced))
      },
    ), { numRuns: draws(60) })
  })

  it('refuses figures that no screen has', () => {
    for (const [width, height, rate] of [[0, 480, 60], [800, 0, 60], [800, 480, 0], [Number.NaN, 480, 60],
      [1e9, 480, 60]] as const) {
      expect(() => videoTiming(width, height, rate)).toThrow(RangeError)
    }
  })
})

describe('a touch that turns with its picture', () => {
  it('has the published matrices', () => {
    // published: libinput documentation, calibration matrix
    expect([TOUCH_MATRIX[90], TOUCH_MATRIX[180], TOUCH_MATRIX[270]]).toEqual([
      [0, -1, 1, 1, 0, 0], [-1, 0, 1, 0, -1, 1], [0, 1, 0, -1, 0, 1],
    ])
  })

  it('goes the same way by matrix and by flags, and four quarter turns are none', () => {
    // published: Linux kernel, touchscreen.yaml: axes are inverted, then swapped
    const byMatrix = (rotation: Rotation, [x, y]: [number, number]): [number, number] => {
      const [a, b, c, d, e, f] = TOUCH_MATRIX[rotation] as [number, number, number, number, number, number]
      return [a * x + b * y + c, d * x + e * y + f]
    }
    const byFlags = (rotation: Rotation, [x, y]: [number, number]): [number, number] => {
      const flags = TOUCH_FLAGS[rotation]
      const [u, v] = [flags.includes('invx') ? 1 - x : x, flags.includes('invy') ? 1 - y : y]
      return flags.includes('swapxy') ? [v, u] : [u, v]
    }
    for (const point of [[0.1, 0.7], [0, 0], [1, 0.25]] as [number, number][]) {
      for (const rotation of [0, 90, 180, 270] as const) {
        byMatrix(rotation, point).forEach((value, i) => expect(value).toBeCloseTo(byFlags(rotation, point)[i]!, 12))
      }
      let turned = point
      for (let i = 0; i < 4; i++) turned = byMatrix(90, turned)
      turned.forEach((value, i) => expect(value).toBeCloseTo(point[i]!, 12))
    }
  })

  it('stands in the lines of a screen by every driver', () => {
    const mode = { width: 800, height: 480, rateHz: 60, reduced: false }
    const full = screenLines({ driver: 'full', path: 'video', mode, rotation: 90, touch: true })
    expect(full).toMatchObject({
      boot: ['dtoverlay=vc4-kms-v3d'], words: ['video=HDMI-A-1:800x480M@60,rotate=90'], touchFlags: ['invy', 'swapxy'],
    })
    expect(full.touchRule).toContain('"0 -1 1 1 0 0"')
    expect(screenLines({ driver: 'legacy', path: 'video', mode, rotation: 270 }).boot).toEqual([
      'hdmi_group=2', 'hdmi_mode=87', 'hdmi_cvt=800 480 60 6 0 0 0', 'display_rotate=3',
    ])
    const panel = screenLines({ driver: 'full', path: 'parallel', mode, rotation: 0 }).boot.join('\n')
    for (const figure of [
      'clock-frequency=29500000', 'hactive=800', 'hfp=24', 'hsync=72', 'hbp=96', 'vactive=480', 'vfp=3', 'vsync=10',
      'vbp=7',
    ]) {
      expect(panel).toContain(figure)
    }
    for (const line of panel.split('\n')) expect(line.length).toBeLessThanOrEqual(98)
    expect(screenLines({ driver: 'full', path: 'connector', rotation: 0 }))
      .toMatchObject({ words: [], touchRule: null, timing: null })
  })
})

const boards = [...catalogue.boards.values()]

describe('the base tree of a board class', () => {
  it.each(boards.map(board =>
    [board.id, board] as const))('%s is the same tree by the reference compiler, without a warning', (_, board) => {
    const source = baseSource(board)
    const blob = writeBlob(compileText(source, { symbols: true }))
    expect(dtcPrint(blob)).toBe(dtcPrint(dtcCompile(source, true)))
    expect(dtcWarnings(blob)).toBe(dtcWarnings(dtcCompile(source, true)))
  })

  it('sets its buses\' lines as the kernel\'s own pin groups do', () => {
    // published: Linux 6.1 device trees, in test/data/pin-groups.json
    const board = catalogue.boards.get('forty-usb-c')!
    const tree = compileText(baseSource(board), { symbols: true })
    const groups = pinGroups.families.extra as Record<string, { line: number, function: string }[]>
    const pairs: [string, string][] = [
      ['i2c1_pins', 'i2c1_gpio2'], ['i2c0_pins', 'i2c0_gpio0'], ['i2c3_pins', 'i2c3_gpio4'],
      ['i2c4_pins', 'i2c4_gpio8'],
      ['spi0_pins', 'spi0_gpio7'], ['spi3_pins', 'spi3_gpio0'], ['uart0_pins', 'uart0_gpio14'],
      ['uart2_pins', 'uart2_gpio0'],
      ['uart5_pins', 'uart5_gpio12'], ['i2s_pins', 'pcm_gpio18'],
    ]
    for (const [own, published] of pairs) {
      const node = nodeAt(tree.root, `/soc/gpio@7e200000/${own}`)!
      const lines = cellsOf(propertyOf(node, 'brcm,pins')!.value)
      const settings = cellsOf(propertyOf(node, 'brcm,function')!.value)
      for (const [i, line] of lines.entries()) {
        const known = groups[published]!.find(entry => entry.line === line)!
        expect([own, line, settings[i] ?? settings[0]]).toEqual([own, line, SETTING_NUMBER[known.function]])
      }
    }
  })
})

describe('overlays of the library', () => {
  it('go onto a base as the reference loader lays them', () => {
    const board = catalogue.boards.get('forty-usb-c')!
    const base = dtcCompile(baseSource(board), true)
    for (const spec of OVERLAYS.values()) {
      const source = sourceOf(resolveOverlay(spec,
        Object.keys(spec.choices ?? {}).slice(0, 1).map(name => ({ name, value: '' }))), board)
      const overlay = writeBlob(compileText(source, { symbols: true }))
      let ours
      try {
        ours = writeBlob(applyOverlay(readBlob(base), readBlob(overlay)))
      }
      catch {
        // A bus that this board does not have: the reference refuses it too.
        expect(() => fdtoverlay(base, overlay), spec.name).toThrow()
        continue
      }
      expect(dtcPrint(ours, true), spec.name).toBe(dtcPrint(fdtoverlay(base, overlay), true))
    }
  })
})

/** A plan of one part, placed. */
function placed(board: string, type: string) {
  const plan = planOf(board, { part: type })
  const result = placePlan(plan, catalogue, { scope: 'rest' })
  return gatherFacts(result.ok ? applyEdit(plan, { edit: 'all', edits: placementEdits(plan, result) }).plan : plan,
    catalogue)
}

describe('an overlay made for a part', () => {
  it.each([
    ['forty-usb-c'], ['forty-io-bridge'],
  ])('compiles by the reference without a warning and goes onto the base of %s as the reference lays it', (boardId) => {
    const board = catalogue.boards.get(boardId)!
    const base = dtcCompile(baseSource(board), true)
    for (const type of Object.keys(bindings)) {
      const facts = placed(boardId, type)
      const overlay = overlayForPart(facts, facts.parts[0]!)
      if (!overlay.ok) throw new Error(`${type}: ${overlay.why}`)
      const blob = overlayBlob(overlay.source)
      expect(dtcPrint(blob, true), type).toBe(dtcPrint(dtcCompile(overlay.source, true), true))
      expect(dtcWarnings(blob), type).toBe(dtcWarnings(dtcCompile(overlay.source, true)))
      expect(dtcPrint(writeBlob(applyOverlay(readBlob(base), readBlob(blob))), true), type)
        .toBe(dtcPrint(fdtoverlay(base, blob), true))
    }
  })
})
