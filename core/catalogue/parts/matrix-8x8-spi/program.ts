/** How it is spoken to over SPI. From memory of its data sheet. */
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  spi: {
    aim: 'show',
    title: 'Show something on it',
    does: 'a lit row runs down each module, then a frame stays for a second.',
    needs: [],
    arguments: '4',
    see: 'A lit row runs down every module at once, a frame stays for a second, then all is dark.',
    python: {
      main: `COUNT = int(sys.argv[1]) if len(sys.argv) > 1 else 4
bus = os.open(DEVICE, os.O_RDWR)

def all_modules(register, value):
    exchange(bus, [register, value] * COUNT)

# No test, no figures, dim, all eight rows, awake.
for register, value in [(0x0F, 0), (0x09, 0), (0x0A, 1), (0x0B, 7), (0x0C, 1)]:
    all_modules(register, value)
try:
    for lit in range(1, 9):
        for row in range(1, 9):
            all_modules(row, 0xFF if row == lit else 0)
        time.sleep(0.1)
    for row in range(1, 9):
        all_modules(row, 0xFF if row in (1, 8) else 0x81)
    time.sleep(1)
finally:
    for row in range(1, 9):
        all_modules(row, 0)
print(f'{COUNT} modules: a row ran down, then a frame; all dark again')`,
    },
    c: {
      functions: `
#define MOST 32

/* One figure for all modules at once. */
static void all_modules(int bus, int modules, int address, int value) {
  unsigned char sent[2 * MOST], got[2 * MOST];
  for (int nth = 0; nth < modules; nth++) {
    sent[2 * nth] = address;
    sent[2 * nth + 1] = value;
  }
  exchange(bus, sent, got, 2 * modules);
}
`,
      main: `  int modules = count > 1 ? atoi(words[1]) : 4, bus = opened();
  if (modules < 1 || modules > MOST) {
    fprintf(stderr, "1 to %d modules\\n", MOST);
    return 2;
  }
  /* No test, no figures, dim, all eight rows, awake. */
  static const unsigned char begin[5][2] = { { 0x0F, 0 }, { 0x09, 0 }, { 0x0A, 1 }, { 0x0B, 7 }, { 0x0C, 1 } };
  for (int nth = 0; nth < 5; nth++) all_modules(bus, modules, begin[nth][0], begin[nth][1]);
  for (int lit = 1; lit <= 8; lit++) {
    for (int row = 1; row <= 8; row++) all_modules(bus, modules, row, row == lit ? 0xFF : 0);
    usleep(100000);
  }
  for (int row = 1; row <= 8; row++) all_modules(bus, modules, row, row == 1 || row == 8 ? 0xFF : 0x81);
  sleep(1);
  for (int row = 1; row <= 8; row++) all_modules(bus, modules, row, 0);
  printf("%d modules: a row ran down, then a frame; all dark again\\n", modules);
  return 0;`,
    },
  },
}

export default program
