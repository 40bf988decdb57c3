import { text } from '../../shape/shape'

/** Of a part: what `part.terminal` names. */
export const terminalId = text({ pattern: /^[A-Za-z0-9_-]{1,36}$/, called: 'letters, digits, dashes and underscores' })
