/** A Python file from its parts: runs with Python 3.8 or newer and nothing beside it. */
import type { Access, LineChipOf } from './access'
import { spoken } from './words'
import { PYTHON, type PythonPieceName } from './python-helpers'

export const quoted = (text: string) => `'${text.replaceAll('\\', '\\\\').replaceAll('\'', '\\\'')}'`

/** The chip that has the header's lines; on some boards and images it has another number. */
export const CHIP = ['# gpiodetect tells which chip has the header\'s lines.', `CHIP = '/dev/gpiochip0'`] as const
/** The same for the chip of a part's lines. */
export const chipLines = ({ node, expander }: LineChipOf): readonly string[] => expander === null
  ? CHIP
  : [`# The chip of ${spoken(expander)}; gpiodetect tells its number, which other chips can change.`,
      `CHIP = '${node}'`]

/** What is tried when the kernel says no. */
const HINTS: Readonly<Partial<Record<Access['by'], string>>> = {
  i2c: 'Look at the bus: i2cdetect -y, the wires, the address strap, and whether the boot file switches the bus on.',
  files: 'Its driver has not found it: look at dmesg, the boot file and the wires.',
  probes: 'Look for probes: ls /sys/bus/w1/devices. None: the line in the boot file, the wires, the pull-up of 4.7 kΩ.',
  clock: 'Its driver has not found it: look at dmesg, the boot file and the wires.',
  serial: 'Look for the port: ls -l /dev/serial* /dev/tty*, and whether the boot file switches it on and nothing else '
    + 'has it open.',
  out: 'Another program or a driver may have the line: gpioinfo tells which.',
  in: 'Another program or a driver may have the line: gpioinfo tells which.',
  scale: 'Another program or a driver may have the line: gpioinfo tells which.',
  echo: 'Another program or a driver may have the line: gpioinfo tells which.',
  pulses: 'No pulse channel: its line in the boot file switches it on. Writing there needs root or the group gpio.',
  spi: 'No such bus, or a line that something else has: its line in the boot file switches the bus on; gpioinfo '
    + 'tells of lines.',
  pixels: 'No such bus: its line in the boot file switches it on.',
  events: 'No such input: look at dmesg, and at the plug.',
}
const DENIED = 'You may not: run it with sudo, or join the group that ls -l shows for it, and log in anew.'

export interface PythonParts {
  about: string[]
  imports: readonly string[]
  pieces: readonly PythonPieceName[]
  constants: readonly string[]
  functions: readonly string[]
  main: string
  by: Access['by'] | 'several'
}

/** One file: what it is for, what it needs, and its main part. */
export function pythonFile(given: PythonParts): string {
  const pieces = [...new Set(given.pieces)]
  const imports = [...new Set(['sys', ...given.imports, ...pieces.flatMap(piece => PYTHON[piece].imports)])].sort()
  const hint = given.by === 'several' ? 'Try the program of that part alone.' : HINTS[given.by] ?? ''
  return `${[
    `#!/usr/bin/env python3\n"""${given.about.join('\n')}\n"""`,
    imports.map(name => `import ${name}`).join('\n'),
    ...given.constants.length ? [given.constants.join('\n')] : [],
  ].join('\n')}\n${[...pieces.map(piece => PYTHON[piece].text.trim()), ...given.functions].map(text => `\n\n${text}\n`).join('')}

def main():
${given.main.split('\n').map(line => line && `    ${line}`).join('\n')}


if __name__ == '__main__':
    try:
        main()
    except PermissionError as error:
        sys.exit(f'{error}. ${DENIED}')
    except OSError as error:
        sys.exit(f'{error}. ${hint}')
    except KeyboardInterrupt:
        pass
`
}
