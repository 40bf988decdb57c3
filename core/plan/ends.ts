/** What is on the end of a wire. */

export const WIRE_ENDS = {
  socket: 'socket', pin: 'pin', bare: 'bare, under a screw', crimp: 'crimped into a plug', solder: 'soldered',
} as const
export type WireEnd = keyof typeof WIRE_ENDS
export const WIRE_END_IDS = Object.keys(WIRE_ENDS) as WireEnd[]
