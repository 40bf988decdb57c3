/**
 * How it is read without a driver. Published: Linux 6.1, drivers/iio/humidity/hdc2010.c: registers, scales and the
 * offset of 40 °C.
 */
import { celsius, value, type PartProgram } from '../../shapes/program'

const program: PartProgram = {
  i2c: {
    // One measurement of both; it takes about a millisecond.
    ask: [[0x0F, 0x01]], askMs: 5,
    blocks: [{ register: [0x00], bytes: 4 }],
    values: [
      celsius('u16le(d, 0) * 165.0 / 65536.0 - 40.0'),
      value('humidity', 'humidity', '%', 1, 'u16le(d, 2) * 100.0 / 65536.0'),
    ],
  },
}

export default program
