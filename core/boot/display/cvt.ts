/**
 * Video timing by VESA Coordinated Video Timings 1.1. Published: VESA CVT standard 1.1; figures agree with Debian's
 * `cvt` (package xcvt).
 */

export interface VideoTiming {
  width: number
  height: number
  rateHz: number
  reduced: boolean
  /** In kHz, in steps of 250. */
  clockKhz: number
  /** Shown, start and end of the pulse, total. */
  horizontal: [shown: number, syncStart: number, syncEnd: number, total: number]
  vertical: [shown: number, syncStart: number, syncEnd: number, total: number]
  /** Picture rate that comes out, in Hz. */
  actualHz: number
}

const CELL = 8
const MIN_FRONT = 3
const MIN_BACK = 6
/** Least time of pulse and back porch, in µs. */
const MIN_SYNC_AND_BACK_US = 550
const REDUCED = { minBlankUs: 460, blank: 160, sync: 32 }

/** Rows of the picture pulse: they tell the shape of the picture. */
function syncRows(width: number, height: number): number {
  if (height % 3 === 0 && height * 4 / 3 === width) return 4
  if (height % 9 === 0 && height * 16 / 9 === width) return 5
  if (height % 10 === 0 && height * 16 / 10 === width) return 6
  if (height % 4 === 0 && height * 5 / 4 === width) return 7
  if (height % 9 === 0 && height * 15 / 9 === width) return 7
  return 10
}

/**
 * Timing of a screen mode. Widths that are no multiple of 8 are raised to the next; `reduced` is the shorter blanking
 * of flat panels. Throws a `RangeError` for figures no screen has.
 */
export function videoTiming(width: number, height: number, rateHz = 60, reduced = false): VideoTiming {
  if (![width, height, rateHz].every(Number.isFinite) || width < 8 || height < 1 || width > 16_384 || height > 16_384
    || rateHz < 1 || rateHz > 500)
    throw new RangeError(
      `a screen has 8 to 16384 columns, 1 to 16384 rows and 1 to 500 pictures a second, not ${width} × `
      + `${height} at ${rateHz}`,
    )
  const shown = Math.ceil(Math.floor(width) / CELL) * CELL
  const rows = Math.floor(height)
  const sync = syncRows(shown, rows)
  let total: number
  let syncStart: number
  let syncEnd: number
  let rowsTotal: number
  // In single precision, as the tools that set modes by it have it: a clock on the edge of a step falls on the
  // same side.
  let rowUs: number
  if (reduced) {
    rowUs = Math.fround((1e6 / rateHz - REDUCED.minBlankUs) / rows)
    rowsTotal = rows + Math.max(Math.floor(REDUCED.minBlankUs / rowUs) + 1, MIN_FRONT + sync + MIN_BACK)
    total = shown + REDUCED.blank
    syncEnd = shown + REDUCED.blank / 2
    syncStart = syncEnd - REDUCED.sync
  }
  else {
    rowUs = Math.fround((1e6 / rateHz - MIN_SYNC_AND_BACK_US) / (rows + MIN_FRONT))
    const syncAndBack = Math.max(Math.floor(MIN_SYNC_AND_BACK_US / rowUs) + 1, sync + MIN_FRONT)
    rowsTotal = rows + syncAndBack + MIN_FRONT
    const share = Math.max(20, 30 - 300 * rowUs / 1000)
    const blank = Math.floor(shown * share / (100 - share))
    total = shown + blank - blank % (2 * CELL)
    syncEnd = shown + (total - shown) / 2
    syncStart = syncEnd - Math.floor(total * 8 / 100)
    syncStart += CELL - syncStart % CELL
  }
  const clockKhz = Math.floor(total * 1000 / rowUs)
  const stepped = clockKhz - clockKhz % 250
  return {
    width: shown, height: rows, rateHz, reduced, clockKhz: stepped,
    horizontal: [shown, syncStart, syncEnd, total],
    vertical: [rows, rows + MIN_FRONT, rows + MIN_FRONT + sync, rowsTotal],
    actualHz: stepped * 1000 / total / rowsTotal,
  }
}
