/** What a bus shows, in words: the same for what the model says and for a scan that was pasted. */
import { hexAddress } from '../bringup/grid'

export const STUCK = 'every address answers: a line is held low'
/** What a meter shows where nothing is fed, and where plus and minus are exchanged. */
export const NOTHING = 'nothing'
export const REVERSED = 'the wrong way round'
/** What a part does, as it is seen at its own test. */
export const DOES = 'it does'
export const NO_PICTURE = 'lit and white, or black, without a picture'
export const FALTERS = 'it falters when it does its most'
export const FLICKERS = 'it flickers, or shows what nobody sent'
export const FOREIGN = 'lines that nobody sent come with it'
export const GARBAGE = 'signs that make no sense'
export const NO_BUS = 'there is no such bus'

/** The answer of a scan with these addresses. */
export const answersAt = (addresses: readonly number[]): string => addresses.length
  ? `answers at ${[...new Set(addresses)].sort((a, b) => a - b).map(hexAddress).join(', ')}`
  : 'nothing answers'

/** Names of probes that others ask for. */
export const LOOKING = { lamps: 'lamps' } as const
