/**
 * How it is spoken to over SPI. Published: data sheet MS5611-01BA03, "Pressure and temperature calculation" and "Second
 * order temperature compensation".
 */
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  spi: {
    aim: 'read',
    title: 'Read it',
    does: 'reads it once, or so many times, each second.',
    needs: [],
    arguments: '10',
    see: 'A line with temperature and pressure, near those of the room.',
    python: {
      functions: `def figure(bus, code):
    """A conversion at its finest, and the 24 bits that it comes to."""
    exchange(bus, [code])
    time.sleep(0.01)
    return int.from_bytes(exchange(bus, [0, 0, 0, 0])[1:], 'big')`,
      main: `bus = os.open(DEVICE, os.O_RDWR)
exchange(bus, [0x1E])
time.sleep(0.005)
c = [int.from_bytes(exchange(bus, [0xA0 + 2 * nth, 0, 0])[1:], 'big') for nth in range(8)]
if c[1] in (0, 0xFFFF):
    raise OSError(19, f'its trimming reads {c[1]:#06x}: wires, supply, or another select')
for nth in range(int(sys.argv[1]) if len(sys.argv) > 1 else 1):
    if nth:
        time.sleep(1)
    d1, d2 = figure(bus, 0x48), figure(bus, 0x58)
    dt = d2 - c[5] * 256
    temp = 2000 + dt * c[6] / 8388608
    off, sens = c[2] * 65536 + c[4] * dt / 128, c[1] * 32768 + c[3] * dt / 256
    if temp < 2000:
        off -= 5 * (temp - 2000) ** 2 / 2
        sens -= 5 * (temp - 2000) ** 2 / 4
        temp -= dt * dt / 2147483648
    pascal = (d1 * sens / 2097152 - off) / 32768
    print(f'temperature {temp / 100:.1f} °C, pressure {pascal / 100:.1f} hPa', flush=True)`,
    },
    c: {
      functions: `
static void say(int bus, unsigned char code) {
  unsigned char got[1];
  exchange(bus, &code, got, 1);
}

/* A conversion at its finest, and the 24 bits that it comes to. */
static double figure(int bus, unsigned char code) {
  unsigned char sent[4] = { 0 }, got[4];
  say(bus, code);
  usleep(10000);
  exchange(bus, sent, got, 4);
  return got[1] * 65536.0 + got[2] * 256.0 + got[3];
}
`,
      main: `  int times = count > 1 ? atoi(words[1]) : 1, bus = opened();
  double c[8];
  say(bus, 0x1E);
  usleep(5000);
  for (int nth = 0; nth < 8; nth++) {
    unsigned char sent[3] = { 0xA0 + 2 * nth, 0, 0 }, got[3];
    exchange(bus, sent, got, 3);
    c[nth] = got[1] * 256 + got[2];
  }
  if (c[1] == 0 || c[1] == 0xFFFF) {
    fprintf(stderr, "its trimming reads 0x%04x: wires, supply, or another select\\n", (unsigned)c[1]);
    return 1;
  }
  for (int nth = 0; nth < times; nth++) {
    if (nth) sleep(1);
    double d1 = figure(bus, 0x48), d2 = figure(bus, 0x58);
    double dt = d2 - c[5] * 256, temp = 2000 + dt * c[6] / 8388608;
    double off = c[2] * 65536 + c[4] * dt / 128, sens = c[1] * 32768 + c[3] * dt / 256;
    if (temp < 2000) {
      double below = temp - 2000;
      off -= 5 * below * below / 2;
      sens -= 5 * below * below / 4;
      temp -= dt * dt / 2147483648.0;
    }
    printf("temperature %.1f °C, pressure %.1f hPa\\n", temp / 100, (d1 * sens / 2097152 - off) / 32768 / 100);
    fflush(stdout);
  }
  return 0;`,
    },
  },
}

export default program
