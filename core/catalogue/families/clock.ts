/**
 * Clocks that keep the time in pairs of decimal digits. Published: Linux 6.1, drivers/rtc/rtc-ds1307.c: registers 0 to
 * 6 are seconds, minutes, hours, day of the week, day, month, year.
 */
import type { ChipState, Registers } from '../shapes/chip'
import type { Recipe } from '../shapes/program'
import { bcd } from './registers'

const timeAt = (register: number, now: Date): number | undefined => [
  bcd(now.getUTCSeconds()), bcd(now.getUTCMinutes()), bcd(now.getUTCHours()), now.getUTCDay() + 1,
  bcd(now.getUTCDate()),
  bcd(now.getUTCMonth() + 1), bcd(now.getUTCFullYear() % 100),
][register]

/** The time, and what `other` has at the registers behind it. */
export const clockRegisters = (other: (register: number, state: ChipState) => number | undefined): Registers => ({
  width: 1, at: (register, state) => timeAt(register, state.now) ?? other(register, state) ?? 0,
})

export const clockRecipe: Recipe = {
  blocks: [{ register: [0x00], bytes: 7 }],
  values: [
    { label: 'hours', unit: '', digits: 0, formula: 'bcd(d[2] & 63) * 1.0' },
    { label: 'minutes', unit: '', digits: 0, formula: 'bcd(d[1] & 127) * 1.0' },
    { label: 'seconds', unit: '', digits: 0, formula: 'bcd(d[0] & 127) * 1.0' },
  ],
}
