/**
 * Words that boards, parts and supplies share. Units are in the names. Unlike plans these are closed: a misspelt field
 * is an error.
 */
import { choice, list, map, number, object, oneOf, optional, text, type Fields, type Of } from '../../shape/shape'

/**
 * `published: …` (the source follows), `practice`, `memory`, `yours` (typed in by the maker) or `measured` (likewise,
 * at the thing): where a figure comes from; it is shown beside every limit.
 */
export const origin = text({
  pattern: /^(memory|practice|published|yours|measured)(: .+)?$/,
  called: 'memory, practice, yours, measured or published, with the source after a colon',
})
/** Where single figures of a file come from, by their names; what is not named comes from where the file does. */
export const origins = optional(map(origin))
export const sourced = object({ value: number(), origin })
export const id = text({ pattern: /^[a-z0-9][a-z0-9-]*$/, called: 'lower-case letters, digits and dashes', max: 60 })
/** A line of text for people. */
export const words = text({ max: 400 })
export const cautions = optional(list(words))
/** A key that names something elsewhere in the file. */
export const key = text()
export const positive = number({ above: 0 })
export const notNegative = number({ min: 0 })
export const share = number({ min: 0, max: 1 })
export const line = number({ min: 0, whole: true })
export const position = number({ min: 1, max: 100, whole: true })

export const rail = oneOf('5V', '3V3')
/** Voltages that parts are fed with: the header's rails, and those that only a supply of its own gives. */
export const feedRail = oneOf('5V', '3V3', '12V', '24V')
export const controllerKind = oneOf('i2c', 'spi', 'serial', 'pwm', 'i2s')

/** True when the chosen options have these values. */
export const condition = map(text())

/**
 * One line a boot file has to hold: a base parameter, an overlay with parameters, or a plain setting. `more`
 * are fields beside.
 */
export const bootNeedWith = <const F extends Fields>(more: F) => choice('kind', {
  param: { name: key, value: text(), ...more },
  overlay: { name: key, params: optional(map(text({ empty: true }))), ...more },
  setting: { name: key, value: text(), ...more },
})
export const bootNeed = bootNeedWith({})

export type Origin = Of<typeof origin>
export interface Sourced extends Of<typeof sourced> {}
export type Rail = Of<typeof rail>
export type FeedRail = Of<typeof feedRail>
export type ControllerKind = Of<typeof controllerKind>
export type Condition = Of<typeof condition>
export type BootNeed = Of<typeof bootNeed>

/** Outline of a board: with network and four USB sockets, the early one of that size, a third of it. */
export const boardOutline = oneOf('full', 'early', 'third')
/** Size of a USB or video plug or socket. */
export const plugSize = oneOf('full', 'mini', 'micro')
