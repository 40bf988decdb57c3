/** How it is spoken to over SPI. From memory of its data sheet. */
import { COMMAND_PYTHON, RESET_PYTHON } from '../../families/spi-pieces'
import type { PartProgram } from '../../shapes/program'

const program: PartProgram = {
  spi: {
    aim: 'show',
    title: 'Show something on it',
    does: 'sixteen steps of grey from left to right.',
    needs: ['dc', 'reset'],
    see: 'Sixteen steps of grey, dark on the left and bright on the right.',
    python: {
      functions: COMMAND_PYTHON,
      main: `${RESET_PYTHON}dc = request([DC], OUTPUT, [0])
bus = os.open(DEVICE, os.O_RDWR)
# Off, 128 rows, columns and rows the usual way round, medium contrast, own supply of the panel, on.
for code, data in [(0xAE, ()), (0xA8, (0x7F,)), (0xA0, (0x51,)), (0xA1, (0x00,)), (0xA2, (0x00,)), (0x81, (0x80,)),
                   (0xAB, (0x01,)), (0xA4, ()), (0xAF, ())]:
    set_values(dc, [0])
    exchange(bus, [code, *data])
for code, last in [(0x15, 0x3F), (0x75, 0x7F)]:
    set_values(dc, [0])
    exchange(bus, [code, 0x00, last])
set_values(dc, [1])
# Two dots a byte.
row = [(nth // 4) * 0x11 for nth in range(64)]
for _ in range(128):
    exchange(bus, row)
print('sixteen steps of grey, dark on the left')`,
    },
    c: {
      main: `  wake();
  int dc = output(DC, 0), bus = opened();
  unsigned char got[64], row[64];
  /* Off, 128 rows, columns and rows the usual way round, medium contrast, own supply of the panel, on: all as commands. */
  static const unsigned char begin[] = {
    0xAE, 0xA8, 0x7F, 0xA0, 0x51, 0xA1, 0x00, 0xA2, 0x00, 0x81, 0x80, 0xAB, 0x01, 0xA4, 0xAF, 0x15, 0x00, 0x3F, 0x75, 0x00, 0x7F,
  };
  exchange(bus, begin, got, sizeof begin);
  set(dc, 1);
  /* Two dots a byte. */
  for (int nth = 0; nth < 64; nth++) row[nth] = nth / 4 * 0x11;
  for (int nth = 0; nth < 128; nth++) exchange(bus, row, got, sizeof row);
  printf("sixteen steps of grey, dark on the left\\n");
  return 0;`,
    },
  },
}

export default program
