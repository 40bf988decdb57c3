/** What programs for parts on SPI have in common, in Python and in C. */
import type { SpiProgram } from '../shapes/program'

/** Out of its reset: low for a moment, then high. In C this is `wake()`. */
export const RESET_PYTHON = `asked = request([RESET], OUTPUT, [0])
time.sleep(0.01)
set_values(asked, [1])
time.sleep(0.05)
`

/** A command to a screen with its line for data low, what belongs to it with that line high. */
export const COMMAND_PYTHON = `def command(bus, dc, code, *data):
    """A command with its line for data low; what belongs to it with that line high."""
    set_values(dc, [0])
    exchange(bus, [code])
    if data:
        set_values(dc, [1])
        exchange(bus, data)`

export const COMMAND_C = `
/* A command with its line for data low; what belongs to it with that line high. */
static void command(int bus, int dc, int code, const unsigned char *data, int length) {
  unsigned char sent = code, got[64];
  set(dc, 0);
  exchange(bus, &sent, got, 1);
  if (!length) return;
  set(dc, 1);
  exchange(bus, data, got, length);
}
`

/**
 * Whether a byte at a register says who it is. `sent`: what has the register come back in the second byte; `known`:
 * versions there are.
 */
export const spiIdentity = (what: string, sent: number, known: readonly number[]): SpiProgram => ({
  aim: 'read', title: 'See whether it is there', does: 'asks whether it is there.', needs: ['reset'],
  see: `It says that it is there. ${what}`,
  python: {
    main: `${RESET_PYTHON}bus = os.open(DEVICE, os.O_RDWR)
found = exchange(bus, [0x${sent.toString(16).toUpperCase()}, 0x00])[1]
if found not in [${known.map(value => `0x${value.toString(16).toUpperCase()}`).join(', ')}]:
    raise OSError(19, f'its version reads {found:#04x}: 0x00 and 0xff are wires or supply, all else another chip')
print(f'it is there: version {found:#04x}')`,
  },
  c: {
    main: `  wake();
  int bus = opened();
  unsigned char sent[2] = { 0x${sent.toString(16).toUpperCase()}, 0 }, got[2];
  exchange(bus, sent, got, 2);
  if (${known.map(value => `got[1] != 0x${value.toString(16).toUpperCase()}`).join(' && ')}) {
    fprintf(stderr, "its version reads 0x%02x: 0x00 and 0xff are wires or supply, all else another chip\\n", got[1]);
    return 1;
  }
  printf("it is there: version 0x%02x\\n", got[1]);
  return 0;`,
  },
})
