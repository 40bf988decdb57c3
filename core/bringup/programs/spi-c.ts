/**
 * The same programs for parts over SPI in C (`spi.ts` has them in Python, with where their figures come from). Published: Linux,
 * include/uapi/linux/spi/spidev.h and gpio.h.
 */
import type { ResolvedPart } from '../../facts/types'
import type { Access } from './access'
import { FAIL, head, quoted, REQUEST } from './c-pieces'
import { spiProgramOf } from './spi'
import type { ProgramText } from './types'

const EXCHANGE = `
/* Bytes out over the bus and as many back, in one go. */
static void exchange(int bus, const unsigned char *out, unsigned char *got, int length) {
  struct spi_ioc_transfer one = {
    .tx_buf = (unsigned long)out, .rx_buf = (unsigned long)got, .len = length, .speed_hz = HZ, .bits_per_word = 8,
  };
  if (ioctl(bus, SPI_IOC_MESSAGE(1), &one) < 0) fail(DEVICE);
}

static int opened(void) {
  int bus = open(DEVICE, O_RDWR);
  if (bus < 0) fail(DEVICE);
  return bus;
}
`

const LINES = `
static int output(unsigned line, int level) { return request(&line, 1, GPIO_V2_LINE_FLAG_OUTPUT, level); }

static void set(int asked, int level) {
  struct gpio_v2_line_values values = { .bits = level, .mask = 1 };
  if (ioctl(asked, GPIO_V2_LINE_SET_VALUES_IOCTL, &values) < 0) fail("the line");
}

/* Out of its reset: low for a moment, then high. */
static void wake(void) {
  int reset = output(RESET, 0);
  usleep(10000);
  set(reset, 1);
  usleep(50000);
}
`

const COMMAND = `
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

interface SpiInC {
  functions?: string
  main: string
}

const identity = (sent: number, known: readonly number[]): SpiInC => ({ main: `  wake();
  int bus = opened();
  unsigned char sent[2] = { 0x${sent.toString(16).toUpperCase()}, 0 }, got[2];
  exchange(bus, sent, got, 2);
  if (${known.map(value => `got[1] != 0x${value.toString(16).toUpperCase()}`).join(' && ')}) {
    fprintf(stderr, "its version reads 0x%02x: 0x00 and 0xff are wires or supply, all else another chip\\n", got[1]);
    return 1;
  }
  printf("it is there: version 0x%02x\\n", got[1]);
  return 0;` })

const PROGRAMS: Readonly<Record<string, SpiInC>> = {
  'pressure-spi': {
    functions: `
static void say(int bus, unsigned char code) {
  unsigned char got[1];
  exchange(bus, &code, got, 1);
}

/* A conversion at its finest, and the 24 bits that it comes to. */
static double figure(int bus, unsigned char code) {
  unsigned char sent[4] = { 0 }, got[4];
  say(bus, code);
  usleep(10000);
  exchange(bus, sent, got, 4);
  return got[1] * 65536.0 + got[2] * 256.0 + got[3];
}
`,
    main: `  int times = count > 1 ? atoi(words[1]) : 1, bus = opened();
  double c[8];
  say(bus, 0x1E);
  usleep(5000);
  for (int nth = 0; nth < 8; nth++) {
    unsigned char sent[3] = { 0xA0 + 2 * nth, 0, 0 }, got[3];
    exchange(bus, sent, got, 3);
    c[nth] = got[1] * 256 + got[2];
  }
  if (c[1] == 0 || c[1] == 0xFFFF) {
    fprintf(stderr, "its trimming reads 0x%04x: wires, supply, or another select\\n", (unsigned)c[1]);
    return 1;
  }
  for (int nth = 0; nth < times; nth++) {
    if (nth) sleep(1);
    double d1 = figure(bus, 0x48), d2 = figure(bus, 0x58);
    double dt = d2 - c[5] * 256, temp = 2000 + dt * c[6] / 8388608;
    double off = c[2] * 65536 + c[4] * dt / 128, sens = c[1] * 32768 + c[3] * dt / 256;
    if (temp < 2000) {
      double below = temp - 2000;
      off -= 5 * below * below / 2;
      sens -= 5 * below * below / 4;
      temp -= dt * dt / 2147483648.0;
    }
    printf("temperature %.1f °C, pressure %.1f hPa\\n", temp / 100, (d1 * sens / 2097152 - off) / 32768 / 100);
    fflush(stdout);
  }
  return 0;`,
  },
  'matrix-8x8-spi': {
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
  'card-reader-spi': identity(0xEE, [0x88, 0x91, 0x92, 0xB2]),
  'radio-spi': identity(0x42, [0x12]),
  'oled-spi-15': {
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
  'screen-epaper-29': {
    functions: `${COMMAND}
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
}

/** The C program of a part over SPI; none where its way of speaking is not known. */
export function spiInC(owner: ResolvedPart, { device, hz, lines }: Extract<Access, { by: 'spi' }>, file: (aim: string) => string,
): ProgramText[] {
  const [told, own] = [spiProgramOf(owner.part.id), PROGRAMS[owner.part.id]]
  if (!told || !own) return []
  const sides = Object.entries(lines)
  const takes = told.arguments !== undefined
  const about = head(owner, file(told.aim), told.does, told.arguments)
  return [{ aim: told.aim, arguments: told.arguments ?? '', text: `${about}#include <errno.h>
#include <fcntl.h>
${sides.length ? '#include <linux/gpio.h>\n' : ''}#include <linux/spi/spidev.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <unistd.h>

#define DEVICE ${quoted(device)}
#define HZ ${hz}
#define HINT "Look whether the boot file switches the bus on, at the wires, and at who else has the select."
${sides.length
  ? `/* gpiodetect tells which chip has the header's lines. */
#define CHIP "/dev/gpiochip0"
${sides.map(([id, { line, position }]) => `#define ${id.toUpperCase()} ${line} /* position ${position} */`).join('\n')}
`
  : ''}${FAIL}${EXCHANGE}${sides.length ? `${REQUEST}${LINES}` : ''}${own.functions ?? ''}
int main(${takes ? 'int count, char **words' : 'void'}) {
${own.main}
}
` }]
}
