/** Boot files as bytes: whatever the bytes were, they come back the same. */
import type { BootFile } from '../../../core/plan/types'

/** Text and encoding of a file's bytes; bytes that are no UTF-8 are read one character each. */
export function decodeBoot(bytes: Uint8Array): Required<Pick<BootFile, 'text' | 'encoding'>> {
  try {
    return { text: new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes), encoding: 'utf-8' }
  }
  catch (error) {
    if (!(error instanceof TypeError)) throw error
    return { text: Array.from(bytes, byte => String.fromCharCode(byte)).join(''), encoding: 'latin1' }
  }
}

/** The bytes of a text in the encoding it was read in. */
export function encodeBoot(text: string, encoding: BootFile['encoding'] = 'utf-8'): Uint8Array<ArrayBuffer> {
  return encoding === 'latin1'
    ? Uint8Array.from(text, letter => letter.charCodeAt(0) & 0xFF)
    : new TextEncoder().encode(text) as Uint8Array<ArrayBuffer>
}
