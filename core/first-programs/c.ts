/**
 * The C programs: one file each, built by the compiler of the image with nothing beside the C library and
 * the kernel's headers.
 */
import type { ResolvedPart } from '../facts/types'
import type { Access, LineChipOf } from './access'
import { FAIL, head, quoted, REQUEST } from './c-pieces'
import { spiInC } from './spi-c'
import { FRAMES } from './serial'
import type { Recipe } from '../catalogue/shapes/program'
import type { ProgramText } from './types'
import { biasOf, hex, spoken } from './words'

/** Published: Linux, include/uapi/linux/i2c-dev.h. */
const TRANSFER = `
/* One conversation on the bus: bytes written, then so many read. */
static void transfer(int bus, int address, const unsigned char *sent, int length, unsigned char *got, int wanted) {
  struct i2c_msg messages[2];
  int count = 0;
  if (length) messages[count++] = (struct i2c_msg){ .addr = address, .len = length, .buf = (unsigned char *)sent };
  if (wanted) messages[count++] = (struct i2c_msg){ .addr = address, .flags = I2C_M_RD, .len = wanted, .buf = got };
  struct i2c_rdwr_ioctl_data all = { .msgs = messages, .nmsgs = count };
  if (ioctl(bus, I2C_RDWR, &all) < 0) fail("the bus");
}
`
const NUMBERS: Readonly<Record<string, string>> = {
  u16le: 'static int u16le(const unsigned char *block, int at) { return block[at] | block[at + 1] << 8; }',
  u16be: 'static int u16be(const unsigned char *block, int at) { return block[at] << 8 | block[at + 1]; }',
  s16le: 'static int s16le(const unsigned char *block, int at) { return (short)(block[at] | block[at + 1] << 8); }',
  s16be: 'static int s16be(const unsigned char *block, int at) { return (short)(block[at] << 8 | block[at + 1]); }',
  s8: 'static int s8(const unsigned char *block, int at) { return (signed char)block[at]; }',
  bcd: 'static int bcd(int value) { return (value >> 4) * 10 + (value & 15); }',
}

const formatOf = ({ label, digits, unit }: Recipe['values'][number]) =>
  `${label} %.${digits}f ${unit.replaceAll('%', '%%')}`.trim()

function i2cProgram(owner: ResolvedPart, { device, address }: Extract<Access, { by: 'i2c' }>, recipe: Recipe,
  file: string): string {
  const { who, wake = [], ask = [], askMs = 0, trimmed = [], blocks, steps = [], values } = recipe
  const say = (sent: readonly number[]) =>
    `    transfer(bus, ${hex(address)}, (unsigned char[]){ ${sent.map(hex).join(', ')} }, ${sent.length}, NULL, 0);`
  let at = 0
  const read = (name: string, list: typeof blocks, indent: string) => {
    at = 0
    return list.flatMap(({ register, bytes, waitMs }) => {
      const named = `(unsigned char[]){ ${register.map(hex).join(', ')} }, ${register.length}`
      const to = `${name} + ${at}, ${bytes}`
      at += bytes
      return waitMs
        ? [`${indent}transfer(bus, ${hex(address)}, ${named}, NULL, 0);`, `${indent}usleep(${waitMs * 1000});`,
            `${indent}transfer(bus, ${hex(address)}, NULL, 0, ${to});`]
        : [`${indent}transfer(bus, ${hex(address)}, ${named}, ${to});`]
    })
  }
  const size = (list: typeof blocks) => Math.max(1, list.reduce((sum, { bytes }) => sum + bytes, 0))
  const formulas = [...steps.map(([, formula]) => formula), ...values.map(({ formula }) => formula)].join(' ')
  const helpers = Object.entries(NUMBERS).filter(([name]) => formulas.includes(`${name}(`)).map(([, text]) => text)
  return `${head(owner, file, 'reads it once, or so many times, each second.', '10')}#include <errno.h>
#include <fcntl.h>
#include <linux/i2c-dev.h>
#include <linux/i2c.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <unistd.h>

#define HINT "Look at the bus: i2cdetect -y, the wires, the address strap, and whether the boot file switches the bus on."
${FAIL}${TRANSFER}${helpers.length ? `\n${helpers.join('\n')}\n` : ''}
int main(int count, char **words) {
  int bus = open(${quoted(device)}, O_RDWR);
  if (bus < 0) fail(${quoted(device)});
  int times = count > 1 ? atoi(words[1]) : 1;
  unsigned char d[${size(blocks)}];
${trimmed.length ? `  unsigned char k[${size(trimmed)}];\n` : ''}${who
  ? `  transfer(bus, ${hex(address)}, (unsigned char[]){ ${hex(who.register)} }, 1, d, 1);
  if (d[0] != ${hex(who.value)}) {
    fprintf(stderr, "register ${hex(who.register)} says 0x%02x, not ${hex(who.value)}: another part answers there\\n", d[0]);
    return 1;
  }
`
  : ''}${[...wake.flatMap(({ send, ms }) => [say(send).slice(2), ...ms ? [`  usleep(${ms * 1000});`] : []]), ...read('k', trimmed, '  ')]
  .map(line => `${line}\n`).join('')}  for (int nth = 0; nth < times; nth++) {
    if (nth) sleep(1);
${[...ask.map(say), ...askMs ? [`    usleep(${askMs * 1000});`] : [], ...read('d', blocks, '    '),
  ...steps.map(([name, formula]) => `    double ${name} = ${formula};`),
  `    printf(${quoted(`${values.map(formatOf).join(', ')}\n`)},`,
  `      ${values.map(({ formula }) => formula).join(',\n      ')});`, '    fflush(stdout);'].join('\n')}
  }
  return 0;
}
`
}

const LINE_HEAD = `#include <errno.h>
#include <fcntl.h>
#include <linux/gpio.h>
#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <time.h>
#include <unistd.h>

`
const CHIP_OF = ({ node, expander }: LineChipOf) => `${expander === null
  ? '/* gpiodetect tells which chip has the header\'s lines. */'
  : `/* The chip of ${spoken(expander)}; gpiodetect tells its number, which other chips can change. */`}
#define CHIP "${node}"
#define HINT "Another program or a driver may have the line: gpioinfo tells which."
`
const LINES = (lines: readonly { label: string, line: number, where: string }[], last: (nth: number) => number) =>
  `static const struct { const char *name; unsigned line; const char *where; int level; } lines[] = {
${lines.map(({ label, line, where }, nth) => `  { ${quoted(label)}, ${line}, ${quoted(spoken(where))}, ${last(nth)} },`).join('\n')}
};
#define COUNT (int)(sizeof lines / sizeof lines[0])
`

const moveProgram = (owner: ResolvedPart, { chip, lines }: Extract<Access, { by: 'out' }>, file: string) =>
  `${head(owner, file, 'each of its lines goes on for a second, one after the other, and rests again.')}${LINE_HEAD}${CHIP_OF(chip)}
/* Name, line, where it is, level at rest. */
${LINES(lines, nth => lines[nth]!.rest)}${FAIL}${REQUEST}
static void put(int asked, unsigned long long levels) {
  struct gpio_v2_line_values values = { .bits = levels, .mask = (1ull << COUNT) - 1 };
  if (ioctl(asked, GPIO_V2_LINE_SET_VALUES_IOCTL, &values) < 0) fail("the lines");
}

int main(void) {
  unsigned numbers[COUNT];
  unsigned long long rest = 0;
  for (int nth = 0; nth < COUNT; nth++) {
    numbers[nth] = lines[nth].line;
    rest |= (unsigned long long)lines[nth].level << nth;
  }
  int asked = request(numbers, COUNT, GPIO_V2_LINE_FLAG_OUTPUT, rest);
  for (int nth = 0; nth < COUNT; nth++) {
    printf("%s, line %u, %s: on\\n", lines[nth].name, lines[nth].line, lines[nth].where);
    fflush(stdout);
    put(asked, rest ^ 1ull << nth);
    sleep(1);
  }
  put(asked, rest);
  printf("all at rest\\n");
  return 0;
}
`

const BIAS = { 'none': 'GPIO_V2_LINE_FLAG_BIAS_DISABLED', 'pull-up': 'GPIO_V2_LINE_FLAG_BIAS_PULL_UP',
  'pull-down': 'GPIO_V2_LINE_FLAG_BIAS_PULL_DOWN' } as const
const watchProgram = (owner: ResolvedPart, { chip, lines }: Extract<Access, { by: 'in' }>, file: string) =>
  `${head(owner, file, 'tells each change of its lines for so many seconds.', '20')}${LINE_HEAD}${CHIP_OF(chip)}
/* Name, line, where it is, level that it has when something is up. */
${LINES(lines, nth => lines[nth]!.active)}${FAIL}${REQUEST}
int main(int count, char **words) {
  unsigned numbers[COUNT];
  for (int nth = 0; nth < COUNT; nth++) numbers[nth] = lines[nth].line;
  int asked = request(numbers, COUNT, GPIO_V2_LINE_FLAG_INPUT | GPIO_V2_LINE_FLAG_EDGE_RISING | GPIO_V2_LINE_FLAG_EDGE_FALLING
    | ${BIAS[biasOf(lines)]}, 0);
  struct gpio_v2_line_values now = { .mask = (1ull << COUNT) - 1 };
  if (ioctl(asked, GPIO_V2_LINE_GET_VALUES_IOCTL, &now) < 0) fail("the lines");
  for (int nth = 0; nth < COUNT; nth++) {
    printf("%s, %s: %s\\n", lines[nth].name, lines[nth].where,
      (int)(now.bits >> nth & 1) == lines[nth].level ? "active" : "at rest");
  }
  fflush(stdout);
  struct timespec start, at;
  clock_gettime(CLOCK_MONOTONIC, &start);
  double lasts = count > 1 ? atof(words[1]) : 20, left = lasts;
  while (left > 0) {
    struct pollfd waiting = { .fd = asked, .events = POLLIN };
    struct gpio_v2_line_event event;
    if (poll(&waiting, 1, (int)(left * 1000)) > 0 && read(asked, &event, sizeof event) == sizeof event) {
      for (int nth = 0; nth < COUNT; nth++) if (lines[nth].line == event.offset) {
        printf("%.3f s  %s %s\\n", event.timestamp_ns / 1e9, lines[nth].name,
          (event.id == GPIO_V2_LINE_EVENT_RISING_EDGE) == lines[nth].level ? "active" : "at rest");
        fflush(stdout);
      }
    }
    clock_gettime(CLOCK_MONOTONIC, &at);
    left = lasts - (at.tv_sec - start.tv_sec) - (at.tv_nsec - start.tv_nsec) / 1e9;
  }
  return 0;
}
`

const linkProgram = (owner: ResolvedPart, { device, baud, frame }: Extract<Access, { by: 'serial' }>, file: string) => {
  const greeting = owner.part.hello?.send ?? null
  return `${head(owner, file, 'says something and prints what comes for so many seconds.', '5')}#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <termios.h>
#include <time.h>
#include <unistd.h>

#define PORT ${quoted(device)}
#define RATE B${baud}
#define HINT "Look for the port: ls -l /dev/serial* /dev/tty*, and whether anything else has it open."
${FAIL}
int main(int count, char **words) {
  int port = open(PORT, O_RDWR | O_NOCTTY);
  if (port < 0) fail(PORT);
  /* ${frame}, raw: bytes go out and come in as they are. */
  struct termios modes = { .c_cflag = CREAD | CLOCAL | ${FRAMES.c(frame)} };
  cfsetispeed(&modes, RATE);
  cfsetospeed(&modes, RATE);
  modes.c_cc[VMIN] = 1;
  if (tcsetattr(port, TCSANOW, &modes) < 0) fail(PORT);
${greeting
  ? `  const char *said = ${quoted(greeting)};
  if (write(port, said, strlen(said)) < 0) fail(PORT);
`
  : ''}  struct timespec start, at;
  clock_gettime(CLOCK_MONOTONIC, &start);
  double lasts = count > 1 ? atof(words[1]) : 5, left = lasts;
  long heard = 0;
  while (left > 0) {
    struct pollfd waiting = { .fd = port, .events = POLLIN };
    char text[256];
    if (poll(&waiting, 1, (int)(left * 1000)) > 0) {
      ssize_t length = read(port, text, sizeof text);
      if (length < 0) fail(PORT);
      fwrite(text, 1, length, stdout);
      fflush(stdout);
      heard += length;
    }
    clock_gettime(CLOCK_MONOTONIC, &at);
    left = lasts - (at.tv_sec - start.tv_sec) - (at.tv_nsec - start.tv_nsec) / 1e9;
  }
  if (!heard) printf("nothing came\\n");
  return 0;
}
`
}

/** The C programs of one part. */
export function cPrograms(owner: ResolvedPart, access: Access, file: (aim: string) => string): ProgramText[] {
  switch (access.by) {
    case 'i2c': return access.recipe?.values.length
      ? [{ aim: 'read', arguments: '10', text: i2cProgram(owner, access, access.recipe, file('read')) }]
      : []
    case 'out': return [{ aim: 'move', arguments: '', text: moveProgram(owner, access, file('move')) }]
    case 'in': return [{ aim: 'watch', arguments: '20', text: watchProgram(owner, access, file('watch')) }]
    case 'serial': return [{ aim: 'link', arguments: '5', text: linkProgram(owner, access, file('link')) }]
    case 'spi': return spiInC(owner, access, file)
    default: return []
  }
}
