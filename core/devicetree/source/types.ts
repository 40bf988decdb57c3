/** What passes between the parts of the compiler: tokens of a source, and the files that it includes. */
import type { SourcePlace } from '../types'

export type TokenKind
  = | 'directive' | 'string' | 'char' | 'label' | 'ref' | 'pathRef' | 'number' | 'word' | 'name' | 'mark' | 'end'

export interface Token {
  kind: TokenKind
  /** Of a string its bytes as text (one character a byte); of a label or reference its name; otherwise as written. */
  text: string
  place: SourcePlace
  /** A blank stands before it. */
  spaced: boolean
}

/** Where the files are taken from that a source includes. */
export interface Files {
  /** A file that a source includes, and the name by which it is known from then on; null when it is not at hand. */
  read(name: string, from: string): { text: string, file: string } | null
  /** The bytes of a file for `/incbin/`; null when it is not at hand. */
  bytes?(name: string, from: string): Uint8Array | null
}
