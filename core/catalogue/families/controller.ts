/** A microcontroller with a small program of the maker's: it counts, and says what it heard. */
import type { Talker } from '../shapes/chip'

export const controller: Talker = {
  everyS: 1, says: nth => `count ${nth}\r\n`, answers: line => line.trim() ? `heard ${line.trim()}\r\n` : null,
}
