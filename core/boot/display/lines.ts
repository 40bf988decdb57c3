/** The lines that a screen needs: mode, rotation, and the matrix that turns its touch along. */
import type { DisplayDriver } from '../lint/screen'
import { videoTiming, type VideoTiming } from './cvt'

export type Rotation = 0 | 90 | 180 | 270

export interface ScreenWish {
  driver: DisplayDriver
  /** `video`: by cable; `parallel`: on the header's lines; `connector`: by flat cable. */
  path: 'video' | 'parallel' | 'connector'
  /** Second socket of boards that have two. */
  second?: boolean
  /** Absent: the screen is asked. */
  mode?: { width: number, height: number, rateHz: number, reduced: boolean }
  rotation: Rotation
  touch?: boolean
}

export interface ScreenLines {
  /** Lines of the boot file. */
  boot: string[]
  /** Words of the kernel command line. */
  words: string[]
  /** Rule for the touch, where it turns. */
  touchRule: string | null
  /** Flags of a touch overlay that do the same. */
  touchFlags: string[]
  timing: VideoTiming | null
  said: string[]
}

/**
 * Matrix of a touch that turns with its picture: x′ = a·x + b·y + c, y′ = d·x + e·y + f, both from 0 to 1.
 * Published: libinput documentation, "Static device configuration", calibration matrix.
 */
export const TOUCH_MATRIX: Readonly<Record<Rotation, readonly number[]>> = {
  0: [1, 0, 0, 0, 1, 0], 90: [0, -1, 1, 1, 0, 0], 180: [-1, 0, 1, 0, -1, 1], 270: [0, 1, 0, -1, 0, 1],
}

/**
 * The same by flags: axes are mirrored first, then swapped. Published: Linux kernel,
 * bindings/input/touchscreen/touchscreen.yaml.
 */
export const TOUCH_FLAGS: Readonly<Record<Rotation, readonly string[]>> = {
  0: [], 90: ['invy', 'swapxy'], 180: ['invx', 'invy'], 270: ['invx', 'swapxy'],
}

/** Lines for a screen. Where the driver cannot do what is wished, `said` says so and what does it instead. */
export function screenLines({ driver, path, second = false, mode, rotation, touch = false }: ScreenWish): ScreenLines {
  const timing = mode ? videoTiming(mode.width, mode.height, mode.rateHz, mode.reduced) : null
  const boot: string[] = []
  const words: string[] = []
  const said: string[] = []
  let connector: string
  if (path === 'video') connector = `HDMI-A-${second ? 2 : 1}`
  else connector = path === 'parallel' ? 'DPI-1' : 'DSI-1'
  if (driver === 'full') {
    boot.push('dtoverlay=vc4-kms-v3d')
    if (path === 'parallel') boot.push(...parallelPanel(timing))
    if (path === 'connector') boot.push('dtoverlay=vc4-kms-dsi-7inch')
    // CVT modes are worked out by the kernel itself: M asks for it, R for the reduced blanking.
    const asked = path === 'video' && mode
      ? `${timing!.width}x${mode.height}M${mode.reduced ? 'R' : ''}@${mode.rateHz}`
      : ''
    const turned = rotation ? `rotate=${rotation}` : ''
    if (asked || turned) words.push(`video=${connector}:${[asked, turned].filter(Boolean).join(',')}`)
    if (rotation) said.push('The word turns the text console; a desktop has a setting of its own for the same screen.')
  }
  else {
    if (driver === 'firmware') boot.push('dtoverlay=vc4-fkms-v3d')
    const suffix = second ? ':1' : ''
    if (path === 'video' && mode) {
      boot.push(
        `hdmi_group${suffix}=2`, `hdmi_mode${suffix}=87`,
        `hdmi_cvt${suffix}=${timing!.width} ${mode.height} ${mode.rateHz} ${shape(timing!.width, mode.height)} 0 0 `
        + `${mode.reduced ? 1 : 0}`,
      )
    }
    if (path === 'parallel' && timing) {
      boot.push('dtoverlay=dpi18', 'enable_dpi_lcd=1', 'dpi_group=2', 'dpi_mode=87',
        `dpi_timings=${firmwareTiming(timing)}`)
    }
    if (rotation) {
      boot.push(path === 'connector'
        ? `display_lcd_rotate=${rotation / 90}`
        : driver === 'legacy'
          ? `display_rotate=${rotation / 90}`
          : `display_hdmi_rotate=${rotation / 90}`)
    }
  }
  const matrix = TOUCH_MATRIX[rotation]
  const turns = touch && rotation !== 0
  if (turns) said.push('The touch turns by the rule in a file of its own, or by the flags of its overlay: one of the '
    + 'two, not both.')
  return {
    boot, words, timing, said, touchFlags: turns ? [...TOUCH_FLAGS[rotation]] : [],
    touchRule: turns
      ? `ACTION=="add|change", KERNEL=="event[0-9]*", ENV{ID_INPUT_TOUCHSCREEN}=="1", `
      + `ENV{LIBINPUT_CALIBRATION_MATRIX}="${matrix.join(' ')}"`
      : null,
  }
}

/** A parallel panel's timing as parameters, on lines short enough for early firmware. */
function parallelPanel(timing: VideoTiming | null): string[] {
  if (!timing) return ['dtoverlay=vc4-kms-dpi-generic']
  const { horizontal: [shown, start, end, total], vertical: [rows, rowStart, rowEnd, rowTotal], clockKhz } = timing
  return [
    'dtoverlay=vc4-kms-dpi-generic,rgb666',
    `dtparam=clock-frequency=${clockKhz * 1000},hactive=${shown},hfp=${start - shown},hsync=${end - start},hbp=${total - end}`,
    `dtparam=vactive=${rows},vfp=${rowStart - rows},vsync=${rowEnd - rowStart},vbp=${rowTotal - rowEnd}`,
  ]
}

/** Number of the picture's shape in `hdmi_cvt`. memory */
function shape(width: number, height: number): number {
  const shapes: [number, number][] = [[4 / 3, 1], [14 / 9, 2], [16 / 9, 3], [5 / 4, 4], [16 / 10, 5], [15 / 9, 6]]
  return shapes.reduce((best,
    entry) => Math.abs(entry[0] - width / height) < Math.abs(best[0] - width / height) ? entry : best)[1]
}

/** The firmware's own order of timing figures. memory */
function firmwareTiming(
  { horizontal: [shown, start, end, total], vertical: [rows, rowStart, rowEnd, rowTotal], clockKhz,
    rateHz }: VideoTiming,
): string {
  return [
    shown, 0, start - shown, end - start, total - end, rows, 0, rowStart - rows, rowEnd - rowStart, rowTotal - rowEnd,
    0, 0, 0, rateHz, 0,
    clockKhz * 1000, 6,
  ].join(' ')
}
