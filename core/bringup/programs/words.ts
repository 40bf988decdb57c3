/** Words that the small programs share. */

/** An address or a register as it is typed: `0x3c`. */
export const hex = (value: number): string => `0x${value.toString(16).padStart(2, '0')}`
