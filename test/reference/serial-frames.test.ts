/**
 * Serial levels held against a decoder of somebody else's: sigrok's, Debian package `sigrok-cli`, fed with samples
 * of a port's line.
 */
import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { frameSetting, receiveFrames, sendFrames, type FrameSetting } from '../../core/simulated/frames'
import { random } from '../random'

const PROGRAM = '/usr/bin/sigrok-cli'
const folder = mkdtempSync(join(tmpdir(), 'frames-'))
afterAll(() => rmSync(folder, { recursive: true }))
/** Samples for each bit of the sender: enough for a decoder that looks into the middle. */
const OVERSAMPLED = 64

/** What sigrok reads out of the levels: bytes, and whether it complains of a frame or of a parity. */
function decoded(bytes: readonly number[], sent: FrameSetting, read: FrameSetting) {
  const edges = sendFrames(bytes, sent)
  const rate = sent.baud * OVERSAMPLED
  const samples = Math.ceil((edges.at(-1)!.at + 3 * 12 / Math.min(sent.baud, read.baud)) * rate)
  const levels = new Uint8Array(samples)
  let next = 0
  let high = true
  for (let i = 0; i < samples; i++) {
    while (next < edges.length && edges[next]!.at * rate <= i + 1e-6) high = edges[next++]!.high
    levels[i] = high ? 1 : 0
  }
  const file = join(folder, 'levels.bin')
  writeFileSync(file, levels)
  const parity = { N: 'none', E: 'even', O: 'odd' }[read.parity]
  const { stdout, status } = spawnSync(PROGRAM, [
    '-i', file, '-I', `binary:numchannels=1:samplerate=${rate}`, '-P',
    `uart:rx=0:baudrate=${Math.round(read.baud)}:data_bits=${read.bits}:parity=${parity}:stop_bits=${read.stop}.0:format=hex`,
    '-A', 'uart=rx-data:rx-warnings:rx-parity-err',
  ], { encoding: 'utf8' })
  expect(status).toBe(0)
  const lines = stdout.split('\n').map(line => line.replace(/^uart-1: /, '').trim()).filter(Boolean)
  return {
    bytes: lines.flatMap(line => /^[0-9A-F]{2}$/.test(line) ? [Number.parseInt(line, 16)] : []),
    frameErrors: lines.filter(line => /^Frame error/.test(line)).length,
    parityErrors: lines.filter(line => /^Parity error/.test(line)).length,
  }
}

describe.skipIf(!existsSync(PROGRAM))('serial levels', () => {
  it('are read by sigrok as the bytes that were sent, in every frame', () => {
    const next = random(20261128)
    for (const frame of ['8N1', '7E1', '7O2', '8E1', '8O1', '8N2', '5N1']) {
      const at = frameSetting(9600, frame)
      const bytes = Array.from({ length: 40 }, () => Math.floor(next() * 2 ** at.bits))
      expect([frame, decoded(bytes, at, at)]).toEqual([frame, { bytes, frameErrors: 0, parityErrors: 0 }])
    }
  })

  it('read at another rate are the same wrong bytes for both, as long as no stop is missing', () => {
    const next = random(7)
    const sender = frameSetting(9600, '8N1')
    // None at which a sample falls onto an edge: there two decoders may differ, and so do two ports.
    let compared = 0
    for (const baud of [5000, 7000, 9600 * 1.05, 9600 * 0.95, 19_200, 57_600,
      115_200]) for (let round = 0; round < 7; round++) {
      const reader = frameSetting(baud, '8N1')
      const bytes = Array.from({ length: 6 }, () => Math.floor(next() * 256))
      const ours = receiveFrames(sendFrames(bytes, sender), reader)
      const theirs = decoded(bytes, sender, reader)
      // After a stop that is missing each decoder picks its own next start.
      const well = ours.findIndex(({ frameError }) => frameError)
      const until = well < 0 ? ours.length : well
      expect([baud, theirs.bytes.slice(0, until)]).toEqual([baud, ours.slice(0, until).map(({ byte }) => byte)])
      compared += until
    }
    expect(compared).toBeGreaterThan(60)
  })

  it('with a parity of the other kind are complained of by both', () => {
    const bytes = [0x41, 0x42, 0x43, 0x7F, 0]
    const [even, odd] = [frameSetting(9600, '7E1'), frameSetting(9600, '7O1')]
    expect(decoded(bytes, even, odd)).toMatchObject({ bytes, parityErrors: bytes.length })
    expect(receiveFrames(sendFrames(bytes, even), odd).filter(({ parityError }) => parityError))
      .toHaveLength(bytes.length)
  })
})
