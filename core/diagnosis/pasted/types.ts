/** What a text that was copied from the screen is made of, and what is found in it. */

export type Found
  /** Something that the run sheet asks for. */
  = | { kind: 'seen', probe: string, outcome: string, words: string }
  /** Read, and nothing that the sheet asks for. */
    | { kind: 'said', words: string }
  /** Not to be read; what to do. */
    | { kind: 'refused', words: string }

/** One command with what it printed. */
export interface Passage { command: string | null, lines: string[] }
