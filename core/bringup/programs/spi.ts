/**
 * Programs for parts that are spoken to over SPI in a way of their own, by their name in the catalogue, in Python. What the chips take is
 * from memory of their data sheets but where a source is named; what the simulated board answers is written from the other end
 * (`simulated/spi.ts`).
 */
import type { ResolvedPart } from '../../facts/types'
import type { ProgramAim } from './types'

/** A line of the header beside the bus, by the id of the part's signal. */
export interface SideLine { line: number, position: number }

interface SpiProgram {
  aim: ProgramAim
  title: string
  does: string
  /** Signals beside the bus that it cannot do without; it is left out where one of them lies on no line of the header. */
  needs: readonly string[]
  main: string
  functions?: string
  see: string
  /** What it is given as an example. */
  arguments?: string
}

/** Out of its reset: low for a moment, then high. */
const RESET = `asked = request([RESET], OUTPUT, [0])
time.sleep(0.01)
set_values(asked, [1])
time.sleep(0.05)
`

/** Whether a byte at a register says who it is. `read`: what is sent to have the register back in the second byte. */
const identity = (what: string, sent: number, expected: readonly number[],
): Pick<SpiProgram, 'aim' | 'title' | 'does' | 'main' | 'see'> => ({
  aim: 'read', title: 'See whether it is there', does: 'asks whether it is there.',
  main: `${RESET}bus = os.open(DEVICE, os.O_RDWR)
found = exchange(bus, [0x${sent.toString(16).toUpperCase()}, 0x00])[1]
if found not in [${expected.map(value => `0x${value.toString(16).toUpperCase()}`).join(', ')}]:
    raise OSError(19, f'its version reads {found:#04x}: 0x00 and 0xff are wires or supply, all else another chip')
print(f'it is there: version {found:#04x}')`,
  see: `It says that it is there. ${what}`,
})

/** A command to a screen with its line for data low, what belongs to it with that line high. */
const COMMAND = `def command(bus, dc, code, *data):
    """A command with its line for data low; what belongs to it with that line high."""
    set_values(dc, [0])
    exchange(bus, [code])
    if data:
        set_values(dc, [1])
        exchange(bus, data)`

const PROGRAMS: Readonly<Record<string, SpiProgram>> = {
  // Published: data sheet MS5611-01BA03, "Pressure and temperature calculation" and "Second order temperature compensation".
  'pressure-spi': {
    aim: 'read', title: 'Read it', does: 'reads it once, or so many times, each second.', needs: [], arguments: '10',
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
    see: 'A line with temperature and pressure, near those of the room.',
  },
  'matrix-8x8-spi': {
    aim: 'show', title: 'Show something on it', does: 'a lit row runs down each module, then a frame stays for a second.', needs: [],
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
    arguments: '4', see: 'A lit row runs down every module at once, a frame stays for a second, then all is dark.',
  },
  'card-reader-spi': { ...identity('Hold a card to it with the library of its chip.', 0xEE, [0x88, 0x91, 0x92, 0xB2]), needs: ['reset'] },
  'radio-spi': { ...identity('What it sends wants an aerial and the rules of its band.', 0x42, [0x12]), needs: ['reset'] },
  'oled-spi-15': {
    aim: 'show', title: 'Show something on it', does: 'sixteen steps of grey from left to right.', needs: ['dc', 'reset'],
    functions: COMMAND, main: `${RESET}dc = request([DC], OUTPUT, [0])
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
    see: 'Sixteen steps of grey, dark on the left and bright on the right.',
  },
  'screen-epaper-29': {
    aim: 'show', title: 'Show something on it', does: 'eight black stripes; the change takes some seconds.', needs: ['dc', 'reset', 'busy'],
    functions: `${COMMAND}


def rest(busy):
    """Waits until it has finished; it says so by its line going low."""
    for _ in range(100):
        if get_values(busy, 1) == [0]:
            return
        time.sleep(0.1)
    raise OSError(62, 'it stays busy for ten seconds: its supply, BUSY, or RESET')`,
    main: `${RESET}dc, busy = request([DC], OUTPUT, [0]), request([BUSY], INPUT)
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
    see: 'It flickers for some seconds, then eight black stripes stay, without power too.',
  },
}

export const spiProgramOf = (type: string): SpiProgram | null => PROGRAMS[type] ?? null

/** Signals beside the bus that its program wants. */
export const spiNeeds = ({ part }: Pick<ResolvedPart, 'part'>): readonly string[] => PROGRAMS[part.id]?.needs ?? []
