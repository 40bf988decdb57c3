/**
 * Serial frames bit by bit: what a port sends as levels over time, and what a port at any other rate or frame reads out
 * of them. Published: the asynchronous frame (start bit low, data from the least bit, parity, stop bits high) is that
 * of ITU-T V.4 and of every such port; sampling in the middle of a bit is common practice.
 */

export interface FrameSetting {
  baud: number
  bits: 5 | 6 | 7 | 8
  parity: 'N' | 'E' | 'O'
  stop: 1 | 2
}

/** `8N1`. Throws for anything else of that kind. */
export function frameSetting(baud: number, frame: string): FrameSetting {
  const match = /^([5-8])([NEO])([12])$/.exec(frame)
  if (!match) throw new RangeError(`"${frame}" is no frame: five to eight bits, N, E or O, one or two stop bits, as 8N1`)
  return { baud, bits: Number(match[1]) as FrameSetting['bits'], parity: match[2] as FrameSetting['parity'],
    stop: match[3] === '2'
      ? 2
      : 1 }
}

/** A level from a moment on, in seconds. The line rests high. */
export interface Edge { at: number, high: boolean }

const parityBit = (value: number, bits: number, parity: 'E' | 'O'): boolean => {
  let ones = 0
  for (let i = 0; i < bits; i++) ones += value >> i & 1
  return (ones % 2 === 1) === (parity === 'E')
}

/** The levels of bytes one after the other, without pauses. @param bytes 0…255; bits above the frame's are not sent. */
export function sendFrames(bytes: readonly number[], { baud, bits, parity, stop }: FrameSetting): Edge[] {
  const edges: Edge[] = [{ at: 0, high: true }]
  let slot = 1
  const put = (high: boolean, slots = 1) => {
    if (edges.at(-1)!.high !== high) edges.push({ at: slot / baud, high })
    slot += slots
  }
  for (const byte of bytes) {
    put(false)
    for (let bit = 0; bit < bits; bit++) put((byte >> bit & 1) === 1)
    if (parity !== 'N') put(parityBit(byte, bits, parity))
    put(true, stop)
  }
  put(true)
  return edges
}

export interface Received {
  byte: number
  /** The line was low where the stop bit should be. */
  frameError: boolean
  parityError: boolean
}

/**
 * What a port makes of levels: from each fall of the line it samples in the middle of each of its own bits, and waits
 * for the next fall after the first stop bit.
 */
export function receiveFrames(edges: readonly Edge[], { baud, bits, parity }: FrameSetting): Received[] {
  const found: Received[] = []
  const levelAt = (time: number) => {
    let high = true
    for (const edge of edges) {
      if (edge.at > time) break
      high = edge.high
    }
    return high
  }
  const falls = edges.filter(({ high }) => !high).map(({ at }) => at)
  let after = -1
  for (const fall of falls) {
    if (fall < after) continue
    const sample = (slot: number) => levelAt(fall + (slot + 0.5) / baud)
    // A start bit that is gone in its middle was a spike.
    if (sample(0)) continue
    let byte = 0
    for (let bit = 0; bit < bits; bit++) if (sample(bit + 1)) byte |= 1 << bit
    const isOdd = parity !== 'N' && sample(bits + 1) !== parityBit(byte, bits, parity)
    const stopSlot = bits + 1 + (parity === 'N' ? 0 : 1)
    found.push({ byte, frameError: !sample(stopSlot), parityError: isOdd })
    after = fall + (stopSlot + 0.5) / baud
  }
  return found
}

/**
 * What arrives at the other end, as bytes; what is broken arrives all the same, as ports without error marks give it.
 */
export const transferred = (bytes: readonly number[], from: FrameSetting, to: FrameSetting): number[] =>
  receiveFrames(sendFrames(bytes, from), to).map(({ byte }) => byte)
