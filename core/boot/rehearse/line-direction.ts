/**
 * Which way a driver makes a line that it asks for. From memory of the drivers' own requests (Linux, GPIOD_IN and
 * GPIOD_OUT_* in drivers/); a line that is held by open drain counts as driven, as the kernel counts it.
 */

/** Properties whose line is listened to, by what stands before "-gpios". */
const LISTENS = /^(pendown|irq|int|interrupt|busy|rx|dout|echo|cts|dsr|dcd|row|hpd|cd|wp|ready|rdy|data|det|detect)\b/
/** Drivers whose only line is listened to. */
const LISTENERS = /^(gpio-keys|rotary-encoder|gpio-ir-receiver|pps-gpio|dht1|gpio-charger|linux,extcon|gpio-matrix)/

/** `property`: as in the tree; `drivers`: what the node that asks is compatible with. */
export function directionOf(property: string, drivers: readonly string[]): 'in' | 'out' {
  const own = property.replace(/-?gpios?$/, '')
  return (own ? LISTENS.test(own) : drivers.some(name => LISTENERS.test(name))) ? 'in' : 'out'
}
