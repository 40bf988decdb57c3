/** How it is spoken to over SPI. From memory of its data sheet. */
import { COMMAND_C, COMMAND_PYTHON, RESET_PYTHON } from '../../families/spi-pieces'
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  spi: {
    aim: 'show',
    title: 'Show something on it',
    does: 'eight black stripes; the change takes some seconds.',
    needs: ['dc', 'reset', 'busy'],
    see: 'It flickers for some seconds, then eight black stripes stay, without power too.',
    python: {
      functions: `${COMMAND_PYTHON}


def rest(busy):
    """Waits until it has finished; it says so by its line going low."""
    for _ in range(100):
        if get_values(busy, 1) == [0]:
            return
        time.sleep(0.1)
    raise OSError(62, 'it stays busy for ten seconds: its supply, BUSY, or RESET')`,
      main: `${RESET_PYTHON}dc, busy = request([DC], OUTPUT, [0]), request([BUSY], INPUT)
bus = os.open(DEVICE, os.O_RDWR)
rest(busy)
command(bus, dc, 0x12)
rest(busy)
# Rows and columns counting up, all of 128 by 296, from the first.
for code, data in [(0x11, (0x03,)), (0x44, (0x00, 0x0F)), (0x45, (0x00, 0x00, 0x27, 0x01)), (0x4E, (0x00,)), (0x4F, (0x00, 0x00))]:
    command(bus, dc, code, *data)
set_values(dc, [0])
exchange(bus, [0x24])
set_values(dc, [1])
for row in range(296):
    exchange(bus, [0x00 if row // 18 % 2 else 0xFF] * 16)
command(bus, dc, 0x22, 0xF7)
command(bus, dc, 0x20)
rest(busy)
# Asleep, as it wants to be between pictures.
command(bus, dc, 0x10, 0x01)
print('stripes; they stay without power')`,
    },
    c: {
      functions: `${COMMAND_C}
/* Waits until it has finished; it says so by its line going low. */
static void rest(int busy) {
  for (int nth = 0; nth < 100; nth++) {
    struct gpio_v2_line_values values = { .mask = 1 };
    if (ioctl(busy, GPIO_V2_LINE_GET_VALUES_IOCTL, &values) < 0) fail("the line");
    if (!(values.bits & 1)) return;
    usleep(100000);
  }
  errno = ETIME;
  fail("it stays busy for ten seconds: its supply, BUSY, or RESET");
}
`,
      main: `  wake();
  unsigned line = BUSY;
  int dc = output(DC, 0), busy = request(&line, 1, GPIO_V2_LINE_FLAG_INPUT, 0), bus = opened();
  unsigned char got[16], row[16];
  rest(busy);
  command(bus, dc, 0x12, NULL, 0);
  rest(busy);
  /* Rows and columns counting up, all of 128 by 296, from the first. */
  static const unsigned char area[] = { 0x03, 0x00, 0x0F, 0x00, 0x00, 0x27, 0x01, 0x00, 0x00, 0x00 };
  command(bus, dc, 0x11, area, 1);
  command(bus, dc, 0x44, area + 1, 2);
  command(bus, dc, 0x45, area + 3, 4);
  command(bus, dc, 0x4E, area + 7, 1);
  command(bus, dc, 0x4F, area + 8, 2);
  command(bus, dc, 0x24, NULL, 0);
  set(dc, 1);
  for (int nth = 0; nth < 296; nth++) {
    memset(row, nth / 18 % 2 ? 0x00 : 0xFF, sizeof row);
    exchange(bus, row, got, sizeof row);
  }
  static const unsigned char all = 0xF7, asleep = 0x01;
  command(bus, dc, 0x22, &all, 1);
  command(bus, dc, 0x20, NULL, 0);
  rest(busy);
  /* Asleep, as it wants to be between pictures. */
  command(bus, dc, 0x10, &asleep, 1);
  printf("stripes; they stay without power\\n");
  return 0;`,
    },
  },
}

export default program
