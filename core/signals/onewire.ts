/**
 * 1-Wire: one data line with a pull-up for all. Published for the line: 4.7 kΩ is common practice; more sensors or
 * wire want less.
 */

/** Time in which the line has to rise after a bit, well within the 15 µs in which it is read. Memory. */
const RISE_S = 3e-6
/** Of one sensor. Memory. */
const SENSOR_PF = 30
const WIRE_PF_PER_M = 50
/** A sensor sinks this much at least. Memory: 4 mA at 0.4 V. */
const SINK_MA = 4

export interface OneWire {
  capacitancePf: number
  minOhm: number
  maxOhm: number
  /** Common practice where the wire is short and the sensors few. */
  usualOhm: number
}

/** Pull-up between the sensors' strength and the wire's slowness: R ≤ rise ÷ (2.2 · C). */
export function oneWirePullUp(sensors: number, wireM: number, supplyV = 3.3): OneWire {
  const capacitancePf = 20 + sensors * SENSOR_PF + wireM * WIRE_PF_PER_M
  return { capacitancePf, minOhm: (supplyV - 0.4) / SINK_MA * 1000, maxOhm: RISE_S / (2.2 * capacitancePf * 1e-12),
    usualOhm: 4700 }
}
