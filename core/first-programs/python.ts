/** The Python programs of a part. */
import type { ResolvedPart } from '../facts/types'
import type { Access } from './access'
import { CHIP, chipLines, pythonFile, quoted, type PythonParts } from './python-file'
import { elsewhere, pythonReader } from './python-readers'
import { FRAMES } from './serial'
import { spiProgramOf } from '../catalogue/programs'
import type { ProgramText } from './types'
import { biasOf, hex, spoken } from './words'

const EACH_SECOND = (name: string) => `for nth in range(int(sys.argv[1]) if len(sys.argv) > 1 else 1):
    if nth:
        time.sleep(1)
    print(', '.join(f'{what} {value} {unit}'.strip() for what, value, unit in ${name}()), flush=True)`

const I2C_ANSWERS = ({ device, address,
  recipe }: Extract<Access, { by: 'i2c' }>) => `bus = os.open(${quoted(device)}, os.O_RDWR)
found = transfer(bus, ${hex(address)}, ${recipe?.who ? `[${hex(recipe.who.register)}]` : '[]'}, 1)[0]
${recipe?.who
  ? `if found != ${hex(recipe.who.value)}:
    raise OSError(19, ${elsewhere(recipe.who)})
print(f'it is there: register ${hex(recipe.who.register)} says {found:#04x}')`
  : `print(f'it answers at ${hex(address)}; the first byte is {found:#04x}')`}`

/** What is written over I²C for a small screen: awake, then bars from dark to full. From memory of its data sheet. */
const SCREEN = ({ device, address }: Extract<Access, { by: 'i2c' }>) => `bus = os.open(${quoted(device)}, os.O_RDWR)
# Awake, with its own pump for the voltage, rows and columns the usual way round.
for command in [0xAE, 0x8D, 0x14, 0x20, 0x00, 0xA1, 0xC8, 0xAF]:
    transfer(bus, ${hex(address)}, [0x00, command])
for command in [0x21, 0, 127, 0x22, 0, 7]:
    transfer(bus, ${hex(address)}, [0x00, command])
for page in range(8):
    for column in range(0, 128, 16):
        transfer(bus, ${hex(address)}, [0x40] + [0xFF if column // 16 <= page else 0x00] * 16)
print('stairs from the left edge to the right one')`

type Head = (aim: string, does: string, args?: string) => string[]
type Plain = Omit<PythonParts, 'about' | 'main'>

/** The Python programs of one part. */
export function pythonPrograms(owner: ResolvedPart, access: Access, file: (aim: string) => string): ProgramText[] {
  const head: Head = (aim, does, args = '') => [`${spoken(owner.name)}: ${does}`, '',
    `Start it: python3 ${file(aim)}${args && ` ${args}`}`]
  const plain: Plain = { imports: [], pieces: [], constants: [], functions: [], by: access.by }
  const reader = pythonReader(owner, access)
  if (reader) return [{ aim: 'read', arguments: '10', text: pythonFile({
    ...plain, about: head('read', 'reads it once, or so many times, each second.', '10'),
    imports: ['time', ...reader.imports],
    pieces: reader.pieces, constants: reader.constants, functions: [reader.body], main: EACH_SECOND(reader.name),
  }) }]
  switch (access.by) {
    case 'i2c': return owner.part.display
      ? [{ aim: 'show', arguments: '',
          text: pythonFile({ ...plain, about: head('show', 'shows stairs on it.'), imports: ['os'],
            pieces: ['transfer'], main: SCREEN(access) }) }]
      : [{ aim: 'read', arguments: '',
          text: pythonFile({ ...plain, about: head('read', 'asks whether it is there.'), imports: ['os'],
            pieces: ['transfer'], main: I2C_ANSWERS(access) }) }]
    case 'out': return [{ aim: 'move', arguments: '', text: pythonFile({
      ...plain, about: head('move', 'each of its lines goes on for a second, one after the other, and rests again.'),
      imports: ['time'],
      pieces: ['lines'], constants: [
        ...chipLines(access.chip), '# Name, line, where it is, level at rest.',
        `LINES = [${access.lines.map(({ label, line, where, rest }) =>
          `(${quoted(label)}, ${line}, ${quoted(spoken(where))}, ${rest})`).join(', ')}]`,
      ], main: `rest = [level for _, _, _, level in LINES]
asked = request([line for _, line, _, _ in LINES], OUTPUT, rest)
try:
    for nth, (name, line, where, level) in enumerate(LINES):
        print(f'{name}, line {line}, {where}: on', flush=True)
        set_values(asked, rest[:nth] + [1 - level] + rest[nth + 1:])
        time.sleep(1)
finally:
    set_values(asked, rest)
print('all at rest')`,
    }) }]
    case 'in': return [{ aim: 'watch', arguments: '20', text: pythonFile({
      ...plain, about: head('watch', 'tells each change of its lines for so many seconds.', '20'), imports: ['time'],
      pieces: ['lines', 'edges'], constants: [
        ...chipLines(access.chip), '# Line: name, where it is, level that it has when something is up.',
        `LINES = {${access.lines.map(({ label, line, where, active }) =>
          `${line}: (${quoted(label)}, ${quoted(spoken(where))}, ${active})`).join(', ')}}`,
      ], main: `asked = request(list(LINES), INPUT | EDGES | BIAS[${quoted(biasOf(access.lines))}])
for (name, where, active), level in zip(LINES.values(), get_values(asked, len(LINES))):
    print(f'{name}, {where}: {"active" if level == active else "at rest"}', flush=True)
end = time.monotonic() + float(sys.argv[1] if len(sys.argv) > 1 else 20)
while (left := end - time.monotonic()) > 0:
    edge = next_edge(asked, left)
    if edge:
        name, _, active = LINES[edge[1]]
        print(f'{edge[0]:.3f} s  {name} {"active" if edge[2] == bool(active) else "at rest"}', flush=True)`,
    }) }]
    case 'pulses': return [{ aim: 'move', arguments: '', text: pythonFile({
      ...plain, about: head('move', 'goes through its settings, two seconds each, and rests.'),
      imports: ['pathlib', 'time'],
      constants: [
        `CHIP = pathlib.Path(${quoted(access.chip)})`, `CHANNEL, PERIOD_NS = ${access.channel}, ${access.periodNs}`,
        `SETTINGS = [${access.duties.map(({ label, ns }) => `(${quoted(label)}, ${ns})`).join(', ')}]`,
      ], main: `channel = CHIP / f'pwm{CHANNEL}'
if not channel.exists():
    (CHIP / 'export').write_text(str(CHANNEL))
    # The folder and its rights take a moment.
    time.sleep(0.2)
# Nothing can be set before there is a period, and a period cannot be shorter than the pulse that was set.
if int((channel / 'period').read_text()):
    (channel / 'duty_cycle').write_text('0')
(channel / 'period').write_text(str(PERIOD_NS))
(channel / 'enable').write_text('1')
try:
    for name, high_ns in SETTINGS:
        (channel / 'duty_cycle').write_text(str(high_ns))
        print(f'{name}: {high_ns / 1000:.0f} of {PERIOD_NS / 1000:.0f} µs', flush=True)
        time.sleep(2)
finally:
    (channel / 'enable').write_text('0')
print('it rests')`,
    }) }]
    case 'serial': return serialPrograms(owner, access, head, plain)
    case 'pixels': return [{ aim: 'show', arguments: '', text: pythonFile({
      ...plain, about: head('show', 'a dim point runs along it, red, green and blue.'),
      imports: ['ctypes', 'fcntl', 'os', 'struct', 'time'],
      constants: [`DEVICE, COUNT = ${quoted(access.device)}, ${access.count}`,
        `HZ = ${access.kind === 'clocked' ? 1_000_000 : 2_400_000}`],
      functions: [SEND, PIXELS[access.kind]], main: `bus = os.open(DEVICE, os.O_RDWR)
for colour in [(32, 0, 0), (0, 32, 0), (0, 0, 32)]:
    for at in range(COUNT):
        send(bus, frame([colour if nth == at else (0, 0, 0) for nth in range(COUNT)]))
        time.sleep(0.02)
send(bus, frame([(0, 0, 0)] * COUNT))
print('it ran along three times; all dark again')`,
    }) }]
    case 'spi': {
      const program = spiProgramOf(owner.part.id)!
      const sides = Object.entries(access.lines)
      return [{ aim: program.aim, arguments: program.arguments ?? '', text: pythonFile({
        ...plain, about: head(program.aim, program.does, program.arguments), imports: ['os', 'time'],
        pieces: sides.length ? ['exchange', 'lines'] : ['exchange'], constants: [
          `DEVICE, HZ = ${quoted(access.device)}, ${access.hz}`,
          ...sides.length
            ? [...CHIP, ...sides.map(([id, { line, position }]) =>
                `${id.toUpperCase()} = ${line}  # position ${position}`)]
            : [],
        ], functions: program.python.functions ? [program.python.functions] : [], main: program.python.main,
      }) }]
    }
    case 'events': return [{ aim: 'watch', arguments: '20', text: pythonFile({
      ...plain, about: head('watch', 'prints what is pressed or touched for so many seconds.', '20'),
      imports: ['os', 'select', 'struct', 'time'],
      constants: [
        '# ls -l /dev/input/by-path tells which one it is, where there are several.',
        `DEVICE = ${quoted(access.device)}`, `EVENT = struct.Struct('llHHi')`,
      ], main: `asked = os.open(DEVICE, os.O_RDONLY)
poll = select.poll()
poll.register(asked, select.POLLIN)
print('press a key, or touch it', flush=True)
end = time.monotonic() + float(sys.argv[1] if len(sys.argv) > 1 else 20)
while (left := end - time.monotonic()) > 0 and poll.poll(left * 1000):
    _, _, kind, code, value = EVENT.unpack(os.read(asked, EVENT.size))
    # 1 is a key, 3 a place on a touch panel.
    if kind in (1, 3):
        print(f'{"key" if kind == 1 else "axis"} {code}: {value}', flush=True)`,
    }) }]
    default: return []
  }
}

function serialPrograms(owner: ResolvedPart, access: Extract<Access, { by: 'serial' }>, head: Head,
  plain: Plain): ProgramText[] {
  const constants = [`PORT, RATE = ${quoted(access.device)}, ${access.baud}`, `# ${access.frame}`,
    `FRAME = ${FRAMES.python(access.frame)}`]
  const greeting = owner.part.hello?.send ?? null
  const said = greeting ? `os.write(asked, ${JSON.stringify(greeting).replace(/^"/, 'b"')})\n` : ''
  const link: ProgramText = { aim: 'link', arguments: '5', text: pythonFile({
    ...plain, about: head('link', 'says something and prints what comes for so many seconds.', '5'), pieces: ['port'],
    constants,
    main: `asked = open_port()
${said}heard = hear(asked, float(sys.argv[1] if len(sys.argv) > 1 else 5))
print(heard.decode('ascii', 'replace').strip() or 'nothing came')
odd = sum(1 for byte in heard if byte > 126 or byte < 9)
if odd > len(heard) / 10:
    print(f'{odd} of {len(heard)} bytes are no text: rate and frame of both ends?')`,
  }) }
  if (access.isUsb) return [link]
  return [link, { aim: 'loopback', arguments: '', text: pythonFile({
    ...plain, about: head('loopback',
      'all 256 bytes out and in again, with transmit joined to receive and the part taken off.'),
    pieces: ['port'], constants, main: `asked = open_port()
sent = bytes(range(256))
os.write(asked, sent)
heard = hear(asked, 3, 256)
if heard == sent:
    print('all 256 bytes came back: the port is well, look at the part and its wires')
elif not heard:
    sys.exit('nothing came back: joined positions, the line in the boot file, the console on the port')
else:
    wrong = next((nth for nth, (a, b) in enumerate(zip(sent, heard)) if a != b), len(heard))
    sys.exit(f'{len(heard)} of 256 bytes came back, the first wrong one is number {wrong}: something else is on the line')`,
  }) }]
}

/** Published: Linux, include/uapi/linux/spi/spidev.h: one message of 32 bytes. */
const SEND = `def send(bus, sent):
    """Bytes out over the bus, in one go."""
    out = ctypes.create_string_buffer(bytes(sent), len(sent))
    fcntl.ioctl(bus, 0x40206B00, struct.pack('QQIIHBBBBBx', ctypes.addressof(out), 0, len(sent), HZ, 0, 8, 0, 0, 0, 0))`

/** Frames of the two kinds of strip. memory */
const PIXELS: Readonly<Record<'clocked' | 'one wire', string>> = {
  'clocked': `def frame(pixels):
    """Four bytes of 0, four for each pixel, ones at the end to push the last ones through."""
    lit = b''.join(bytes([0xFF, blue, green, red]) for red, green, blue in pixels)
    return bytes(4) + lit + b'\\xff' * (len(pixels) // 16 + 1)`,
  'one wire': `def frame(pixels):
    """Each bit becomes three of the bus: 110 for a one, 100 for a nought; then a pause."""
    bits = ''.join(f'{green:08b}{red:08b}{blue:08b}' for red, green, blue in pixels)
    wide = ''.join('110' if bit == '1' else '100' for bit in bits)
    return int(wide, 2).to_bytes(len(wide) // 8, 'big') + bytes(90)`,
}
