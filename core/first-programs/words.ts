/** Words that the small programs share. */
import type { InLine } from './types'

/** An address or a register as it is typed: `0x3c`. */
export const hex = (value: number): string => `0x${value.toString(16).padStart(2, '0')}`

/** The pull that all lines of a part take; an inner pull-up where they differ. */
export const biasOf = (lines: readonly InLine[]): InLine['bias'] => lines.every(({ bias }) => bias === lines[0]!.bias)
  ? lines[0]!.bias
  : 'pull-up'

/**
 * A name of the maker's in a comment or between quotes of any language: no marks that end one or begin something else.
 */
export const spoken = (name: string): string => name.replaceAll('"', '\'').replaceAll('\\', '/').replaceAll('*/', '* /')
  .replaceAll(/[\p{Cc}\p{Zl}\p{Zp}]+/gu, ' ')
