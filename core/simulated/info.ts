/** Names and figures that a simulated board has of its own: all made up, none of them anybody's. */
export const INFO = {
  user: 'maker',
  host: 'bench',
  kernel: '6.6.31',
  /** Wall clock at which the power comes on, where nobody says. */
  usualStart: '2026-04-18T15:00:00.000Z',
  /** Without a load test: memory. */
  idleAboveAirC: 24,
  /** Half of 3.3 V: between what is surely low and what is surely high. */
  readsHighAboveV: 1.65,
  /**
   * Published: RFC 5737, addresses for documents; the hardware address is a local one (IEEE 802, second bit of
   * the first byte).
   */
  address: '192.0.2.17',
  gateway: '192.0.2.1',
  hardware: '02:00:00:00:00:17',
} as const
