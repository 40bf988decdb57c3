/**
 * The frame of programs in C for parts over SPI; what is particular to a part stands in its folder. Published: Linux,
 * include/uapi/linux/spi/spidev.h and gpio.h.
 */
import type { ResolvedPart } from '../facts/types'
import type { Access } from './access'
import { FAIL, head, quoted, REQUEST } from './c-pieces'
import { spiProgramOf } from '../catalogue/programs'
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

/** The C program of a part over SPI; none where its way of speaking is not known. */
export function spiInC(owner: ResolvedPart, { device, hz, lines }: Extract<Access, { by: 'spi' }>,
  file: (aim: string) => string,
): ProgramText[] {
  const told = spiProgramOf(owner.part.id)
  if (!told) return []
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
  : ''}${FAIL}${EXCHANGE}${sides.length ? `${REQUEST}${LINES}` : ''}${told.c.functions ?? ''}
int main(${takes ? 'int count, char **words' : 'void'}) {
${told.c.main}
}
` }]
}
