/**
 * Pieces that the Python programs are put together from: the kernel's own interfaces, nothing that has to be installed.
 */

export interface PythonPiece { imports: readonly string[], text: string }

/** Published: Linux, include/uapi/linux/i2c-dev.h and i2c.h. */
const transfer: PythonPiece = { imports: ['ctypes', 'fcntl', 'os', 'struct'], text: `
def transfer(bus, address, sent, wanted=0):
    """One conversation on the bus: bytes written, then so many read."""
    out = ctypes.create_string_buffer(bytes(sent), max(1, len(sent)))
    got = ctypes.create_string_buffer(max(1, wanted))
    parts = []
    if sent:
        parts.append(struct.pack('HHHP', address, 0, len(sent), ctypes.addressof(out)))
    if wanted:
        parts.append(struct.pack('HHHP', address, 1, wanted, ctypes.addressof(got)))
    packed = ctypes.create_string_buffer(b''.join(parts))
    fcntl.ioctl(bus, 0x0707, struct.pack('PI', ctypes.addressof(packed), len(parts)))
    return got.raw[:wanted]
` }

const numbers: PythonPiece = { imports: [], text: `
def u16le(block, at):
    return block[at] | block[at + 1] << 8


def u16be(block, at):
    return block[at] << 8 | block[at + 1]


def signed(value, bits):
    return value - (1 << bits) if value >> (bits - 1) else value


def s16le(block, at):
    return signed(u16le(block, at), 16)


def s16be(block, at):
    return signed(u16be(block, at), 16)


def s8(block, at):
    return signed(block[at], 8)


def bcd(value):
    return (value >> 4) * 10 + (value & 15)
` }

/** Published: Linux, include/uapi/linux/gpio.h, second version of the interface. */
const lines: PythonPiece = { imports: ['fcntl', 'os', 'struct'], text: `
INPUT, OUTPUT, EDGES = 1 << 2, 1 << 3, 1 << 4 | 1 << 5
BIAS = {'none': 1 << 10, 'pull-up': 1 << 8, 'pull-down': 1 << 9}


def request(lines, flags, values=()):
    """Asks the kernel for lines; outputs have their levels from the first moment. They are let go when the program ends."""
    bits = sum(value << nth for nth, value in enumerate(values))
    mask = (1 << len(lines)) - 1
    level = struct.pack('IIQQ', 2, 0, bits, mask) if values else bytes(24)
    packed = bytearray(
        struct.pack('64I', *lines, *[0] * (64 - len(lines))) + b'first-program'.ljust(32, b'\\0')
        + struct.pack('QI20x', flags, 1 if values else 0) + level + bytes(216)
        + struct.pack('II20xi', len(lines), 0, 0))
    chip = os.open(CHIP, os.O_RDWR)
    fcntl.ioctl(chip, 0xC250B407, packed)
    os.close(chip)
    return struct.unpack_from('i', packed, 588)[0]


def get_values(asked, count):
    packed = bytearray(struct.pack('QQ', 0, (1 << count) - 1))
    fcntl.ioctl(asked, 0xC010B40E, packed)
    return [struct.unpack_from('Q', packed)[0] >> nth & 1 for nth in range(count)]


def set_values(asked, values):
    bits = sum(value << nth for nth, value in enumerate(values))
    fcntl.ioctl(asked, 0xC010B40F, bytearray(struct.pack('QQ', bits, (1 << len(values)) - 1)))

` }

const edges: PythonPiece = { imports: ['os', 'select', 'struct'], text: `
def next_edge(asked, seconds):
    """The next change: its time in seconds, its line, and whether it rose. None if there is none in that time."""
    poll = select.poll()
    poll.register(asked, select.POLLIN)
    if not poll.poll(seconds * 1000):
        return None
    stamp, kind, line = struct.unpack_from('QII', os.read(asked, 48))
    return stamp / 1e9, line, kind == 1
` }

/** Published: termios(3). */
const port: PythonPiece = { imports: ['os', 'select', 'termios', 'time'], text: `
def open_port():
    """The port, raw: bytes go out and come in as they are."""
    asked = os.open(PORT, os.O_RDWR | os.O_NOCTTY)
    modes = termios.tcgetattr(asked)
    modes[0] = modes[1] = modes[3] = 0
    modes[2] = termios.CREAD | termios.CLOCAL | FRAME
    modes[4] = modes[5] = getattr(termios, f'B{RATE}')
    modes[6][termios.VMIN], modes[6][termios.VTIME] = 1, 0
    termios.tcsetattr(asked, termios.TCSANOW, modes)
    return asked


def hear(asked, seconds, most=100000):
    """What comes within so many seconds, up to so many bytes."""
    poll = select.poll()
    poll.register(asked, select.POLLIN)
    end, heard = time.monotonic() + seconds, b''
    while len(heard) < most and (left := end - time.monotonic()) > 0:
        if not poll.poll(left * 1000):
            break
        heard += os.read(asked, 4096)
    return heard
` }

/** Published: Linux, include/uapi/linux/spi/spidev.h: one message of 32 bytes. */
const exchange: PythonPiece = { imports: ['ctypes', 'fcntl', 'struct'], text: `
def exchange(bus, sent):
    """Bytes out over the bus and as many back, in one go."""
    out = ctypes.create_string_buffer(bytes(sent), len(sent))
    got = ctypes.create_string_buffer(len(sent))
    fcntl.ioctl(bus, 0x40206B00, struct.pack(
        'QQIIHBBBBBx', ctypes.addressof(out), ctypes.addressof(got), len(sent), HZ, 0, 8, 0, 0, 0, 0))
    return got.raw
` }

const folders: PythonPiece = { imports: ['glob', 'pathlib'], text: `
def folder_of(pattern, name, nth):
    """Folder of the driver's part: the nth of those with that name."""
    found = [path for path in sorted(glob.glob(pattern)) if pathlib.Path(path, 'name').read_text().strip() == name]
    if len(found) <= nth:
        raise OSError(2, f'no {name} among {pattern}')
    return pathlib.Path(found[nth])
` }

export const PYTHON = { exchange, transfer, numbers, lines, edges, port, folders } as const
export type PythonPieceName = keyof typeof PYTHON
