/** Small files beside the boot file: what each says, line by line, and what has to be done with it. */

/** One line and what it does; empty where it needs no word. */
export type Row = readonly [line: string, says: string]

export type After
  /** Read at the very first start only. */
  = | { is: 'first start' }
    | { is: 'restart' }
  /** A command that has it read without a restart. */
    | { is: 'reload', command: string }
    | { is: 'new login' }

export interface SmallFile {
  /** What it is for. */
  what: string
  /** Where it lies on the board. */
  path: string
  owner: string
  mode: string
  rows: readonly Row[]
  after: After
  /** Other files that have to come with it, or nothing. */
  needs?: string
  /** What it lets in, or lets out. */
  opens?: string
  /** Where a secret belongs that is not here. */
  secret?: string
  /** A program that checks such files. */
  checkedBy?: string
}

/** A small file as text, with a newline at its end. */
export const textOf = ({ rows }: Pick<SmallFile, 'rows'>): string => rows.map(([line]) => `${line}\n`).join('')
