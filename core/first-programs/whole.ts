/**
 * Programs for the plan as a whole: its readings as JSON, a fan by threshold, a button that shuts down. All in Python.
 */
import { cautionsOf } from '../catalogue/cautions'
import type { ResolvedPart } from '../facts/types'
import type { Bench } from '../diagnosis/table'
import type { Access, Reached } from './access'
import { chipLines, pythonFile, quoted } from './python-file'
import { pythonReader } from './python-readers'
import type { SmallProgram } from './types'
import { spoken } from './words'

interface PartReached { owner: ResolvedPart, reached: Reached }

/** Chip temperatures at which a fan goes on and off again, °C. Common practice, no source. */
const FAN = { onC: 65, offC: 55 }

export function wholePrograms({ shop: { facts } }: Bench, parts: readonly PartReached[]): SmallProgram[] {
  return [...served(parts, facts.plan.name), ...fan(parts), ...shutdown(parts)]
}

function served(parts: readonly PartReached[], planName: string): SmallProgram[] {
  const readers = parts.flatMap(({ owner, reached }) => {
    const reader = reached.by === 'nothing' ? null : pythonReader(owner, reached)
    return reader ? [{ owner, reader }] : []
  })
  if (!readers.length) return []
  const file = 'serve.py'
  return [{
    file, partId: null, aim: 'serve', language: 'python', title: 'Readings served as JSON',
    text: pythonFile({
      about: [`${spoken(planName)}: serves what its parts read, as JSON.`, '',
        `Start it: python3 ${file}, then curl http://localhost:8000/`, 'With --once it prints the readings and ends.',
        'It listens on this board alone; put 0.0.0.0 for HOST to let the whole network read it.'],
      imports: ['http.server', 'json', 'time', ...readers.flatMap(({ reader }) => reader.imports)],
      pieces: readers.flatMap(({ reader }) => reader.pieces),
      constants: [`HOST, SERVED = '127.0.0.1', 8000`, ...new Set(readers.flatMap(({ reader }) => reader.constants))],
      functions: [...readers.map(({ reader }) => reader.body), `PARTS = {
${readers.map(({ owner, reader }) => `    '${owner.id}': ${reader.name},`).join('\n')}
}


def readings():
    """Every part with its readings, or with what went wrong."""
    found = {}
    for part, read in PARTS.items():
        try:
            found[part] = {what: {'value': value, 'unit': unit} for what, value, unit in read()}
        except OSError as error:
            found[part] = {'error': str(error)}
    return {'time': time.strftime('%Y-%m-%dT%H:%M:%SZ', time.gmtime()), 'parts': found}


class Answer(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        body = json.dumps(readings(), ensure_ascii=False, indent=2).encode()
        self.send_response(200)
        self.send_header('Content-Type', 'application/json; charset=utf-8')
        self.send_header('Content-Length', str(len(body)))
        self.end_headers()
        self.wfile.write(body)`],
      main: `if '--once' in sys.argv:
    print(json.dumps(readings(), ensure_ascii=False, indent=2))
    return
print(f'http://{HOST}:{SERVED}/', flush=True)
http.server.HTTPServer((HOST, SERVED), Answer).serve_forever()`, by: 'several',
    }),
    start: [`python3 ${file}`, 'curl http://localhost:8000/'],
    see: [`An entry for each of ${readers.map(({ owner }) => owner.name).join(', ')}, none of them with "error".`],
    cautions: [],
  }]
}

/** A fan whose line no driver has: by pulses, or on and off. */
function fan(parts: readonly PartReached[]): SmallProgram[] {
  const found = parts.find(({ owner, reached }) =>
    /^fan-/.test(owner.part.id) && (reached.by === 'out' || reached.by === 'pulses'))
  if (!found || found.reached.by === 'nothing') return []
  const { owner, reached } = found
  const setting = fanSetting(reached)
  if (!setting) return []
  return [{
    file: 'fan.py', partId: owner.id, aim: 'fan', language: 'python', title: 'Fan by threshold',
    text: pythonFile({
      about: [`${spoken(owner.name)}: goes on at ON degrees of the chip and off again at OFF.`, '',
        'Start it: python3 fan.py', 'With a number it ends after so many looks, one each two seconds.'],
      imports: ['pathlib', 'time'], pieces: setting.pieces, constants: [
        `CHIP_HEAT = pathlib.Path('/sys/class/thermal/thermal_zone0/temp')`, `ON, OFF = ${FAN.onC}, ${FAN.offC}`,
        ...setting.constants,
      ], functions: [], main: `${setting.open}
runs = False
left = int(sys.argv[1]) if len(sys.argv) > 1 else -1
try:
    while left:
        celsius = int(CHIP_HEAT.read_text()) / 1000
        if celsius >= ON or celsius <= OFF:
            turns = celsius >= ON
            if turns != runs:
                runs = turns
                ${setting.put}
                print(f'{celsius:.0f} °C: {"on" if runs else "off"}', flush=True)
        left -= 1
        time.sleep(2)
finally:
    # Should this program end, the fan had better run.
    runs = True
    ${setting.put}`, by: reached.by,
    }),
    start: ['python3 fan.py'], see: [
      `Under full load it starts at ${FAN.onC} °C; it stops again at ${FAN.offC} °C, and between the two it stays `
      + 'as it was.',
      'When the program ends it runs on.',
    ],
    cautions: cautionsOf(owner.part),
  }]
}

function fanSetting(reached: Access): { pieces: 'lines'[], constants: string[], open: string, put: string } | null {
  if (reached.by === 'out') {
    const [{ line, rest }] = reached.lines as [typeof reached.lines[number]]
    return { pieces: ['lines'], constants: [...chipLines(reached.chip), `LINE = ${line}`],

      open: `asked = request([LINE], OUTPUT, [${rest}])`,
      put: rest ? 'set_values(asked, [0 if runs else 1])' : 'set_values(asked, [1 if runs else 0])' }
  }
  if (reached.by !== 'pulses') return null
  return { pieces: [],
    constants: [`CHANNEL = pathlib.Path('${reached.chip}/pwm${reached.channel}')`, `PERIOD_NS = ${reached.periodNs}`],
    open: `if not CHANNEL.exists():
    (CHANNEL.parent / 'export').write_text('${reached.channel}')
    time.sleep(0.2)
if int((CHANNEL / 'period').read_text()):
    (CHANNEL / 'duty_cycle').write_text('0')
(CHANNEL / 'period').write_text(str(PERIOD_NS))
(CHANNEL / 'enable').write_text('1')`, put: '(CHANNEL / \'duty_cycle\').write_text(str(PERIOD_NS if runs else 0))' }
}

/** A plain button whose line no driver has. */
function shutdown(parts: readonly PartReached[]): SmallProgram[] {
  for (const { owner, reached } of parts) {
    if (!/^buttons?-/.test(owner.part.id) || reached.by !== 'in') continue
    const [{ line, label, active, bias, where }] = reached.lines as [typeof reached.lines[number]]
    return [{
      file: 'shutdown.py', partId: owner.id, aim: 'shutdown', language: 'python', title: 'Shutdown button',
      text: pythonFile({
        about: [`${spoken(owner.name)}, ${label}: held for two seconds it shuts the board down in order.`, '',
          'Start it: sudo python3 shutdown.py', 'With --dry it says so and does nothing.'],
        imports: ['subprocess'], pieces: ['lines', 'edges'],
        constants: [...chipLines(reached.chip), `LINE, PRESSED = ${line}, ${active}`],
        functions: [], main: `asked = request([LINE], INPUT | EDGES | BIAS['${bias}'])
print(${quoted(`hold ${label} (${spoken(where)}) for two seconds`)}, flush=True)
while True:
    edge = next_edge(asked, 3600)
    if not edge or edge[2] != bool(PRESSED):
        continue
    # Let go within two seconds: nothing.
    if next_edge(asked, 2) is None and get_values(asked, 1) == [PRESSED]:
        print('shutting down', flush=True)
        if '--dry' not in sys.argv:
            subprocess.run(['systemctl', 'poweroff'], check=True)
        return`, by: 'in',
      }),
      start: ['sudo python3 shutdown.py'],
      see: [`A short press of ${label} does nothing; held for two seconds the board shuts down.`,
        'The green lamp rests: then the plug may be drawn.'],
      cautions: ['Draw the plug only once the green lamp rests.'],
    }]
  }
  return []
}
