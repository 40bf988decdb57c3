/** Modems that answer commands. Published: ITU-T V.250, 3GPP TS 27.007. */
import type { Talker } from '../shapes/chip'

const ANSWERS: Readonly<Record<string, string>> = {
  'AT': '', 'AT+CSQ': '+CSQ: 17,99', 'AT+CPIN?': '+CPIN: READY', 'AT+CREG?': '+CREG: 0,1', 'ATE0': '',
}

export const modem: Talker = {
  answers: (line) => {
    const command = line.trim().toUpperCase()
    if (!command) return null
    const answer = ANSWERS[command]
    return answer === undefined ? '\r\nERROR\r\n' : `${answer ? `\r\n${answer}\r\n` : ''}\r\nOK\r\n`
  },
}
