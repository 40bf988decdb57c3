/** Zips: written the same each time, read within bounds whatever they say of themselves. */
import { Unzip, UnzipInflate, zipSync, type UnzipFile, type Zippable } from 'fflate'

export interface BundledFile { path: string, bytes: Uint8Array }

/** A zip that cannot be read: damaged, or larger than what it is read for. */
export class ZipError extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'ZipError'
  }
}

export interface ZipLimits {
  /** Bytes that all files have together, unpacked. */
  maxBytes: number
  maxFiles: number
}

/** The zip of some files. The same files give the same bytes: no times are kept in it. */
export function zipOf(files: readonly BundledFile[]): Uint8Array {
  return zipSync(Object.fromEntries(files.map(({ path, bytes }) => [path, bytes])) as Zippable,
    { mtime: new Date(1980, 0, 2), level: 6 })
}

/** So much is unpacked at once: deflate makes a thousand times as much of it at most. */
const PIECE = 8 * 1024

/**
 * Files of a zip, folders left out. Counts the bytes that come out, not those that the zip says it holds, and stops at
 * the limits. Throws `ZipError`.
 */
export function readZip(bytes: Uint8Array, { maxBytes, maxFiles }: ZipLimits): BundledFile[] {
  const files: BundledFile[] = []
  const open = new Set<string>()
  let size = 0
  let count = 0
  const tooLarge = () => new ZipError(
    `it holds more than is read here: over ${maxFiles} files or ${Math.round(maxBytes / 1024 / 1024)} MiB`,
  )
  const take = (file: UnzipFile) => {
    if (++count > maxFiles) throw tooLarge()
    const pieces: Uint8Array[] = []
    let length = 0
    open.add(file.name)
    file.ondata = (error, data, final) => {
      // What was thrown below comes back through here.
      if (error) throw error instanceof ZipError
        ? error
        : new ZipError(`"${file.name.slice(0, 80)}" in it is damaged: ${error.message}`)
      size += data.length
      length += data.length
      if (size > maxBytes) throw tooLarge()
      pieces.push(data)
      if (!final) return
      open.delete(file.name)
      if (file.originalSize !== undefined && file.originalSize !== length) {
        throw new ZipError(`"${file.name.slice(0, 80)}" in it has ${length} bytes where it says ${file.originalSize}`)
      }
      if (!file.name.endsWith('/')) files.push({ path: file.name, bytes: joined(pieces, length) })
    }
    file.start()
  }
  // Empty zips begin with their end.
  if (!(bytes[0] === 0x50 && bytes[1] === 0x4B
    && ((bytes[2] === 3 && bytes[3] === 4) || (bytes[2] === 5 && bytes[3] === 6)))) {
    throw new ZipError('it is no zip')
  }
  if (!hasEnd(bytes)) throw new ZipError('it is cut short')
  try {
    const reader = new Unzip(take)
    reader.register(UnzipInflate)
    for (let at = 0; at < bytes.length; at += PIECE) reader.push(bytes.subarray(at, at + PIECE),
      at + PIECE >= bytes.length)
  }
  catch (error) {
    throw error instanceof ZipError ? error : new ZipError(`it is damaged: ${(error as Error).message}`)
  }
  if (open.size) throw new ZipError(`it ends before "${[...open][0]!.slice(0, 80)}" does`)
  return files
}

/**
 * The record that closes a zip and its length without a comment; a comment may follow. Published: ZIP file
 * format specification 4.3.16.
 */
const END = [0x50, 0x4B, 5, 6]
const END_LENGTH = 22
const MAX_COMMENT = 0xFFFF

function hasEnd(bytes: Uint8Array): boolean {
  for (let at = bytes.length - END_LENGTH; at >= Math.max(0, bytes.length - END_LENGTH - MAX_COMMENT); at--) {
    if (END.every((byte, i) => bytes[at + i] === byte)) return true
  }
  return false
}

function joined(pieces: readonly Uint8Array[], length: number): Uint8Array {
  const whole = new Uint8Array(length)
  let at = 0
  for (const piece of pieces) {
    whole.set(piece, at)
    at += piece.length
  }
  return whole
}
