/** Pieces that several C programs have. */
import type { ResolvedPart } from '../facts/types'
import { spoken } from './words'

/** A text as a C literal. */
export const quoted = (text: string) => JSON.stringify(text)

/** What it is, and how it is built and started. */
export const head = (owner: ResolvedPart, file: string, does: string, args = '') => {
  const name = file.replace(/\.c$/, '')
  return `/*
 * ${spoken(owner.name)}: ${does}
 *
 * Build and start it: gcc -O1 -o ${name} ${file} && ./${name}${args && ` ${args}`}
 */
`
}

/** Says what failed and what to look at; wants `HINT`. */
export const FAIL = `
static void fail(const char *what) {
  fprintf(stderr, "%s: %s. %s\\n", what, strerror(errno), HINT);
  exit(1);
}
`

/** Published: Linux, include/uapi/linux/gpio.h, second version. */
export const REQUEST = `
/* Asks the kernel for lines; outputs have their levels from the first moment. They are let go when the program ends. */
static int request(const unsigned *lines, int count, unsigned long long flags, unsigned long long levels) {
  struct gpio_v2_line_request asked = { .num_lines = count, .consumer = "first-program", .config = { .flags = flags } };
  for (int nth = 0; nth < count; nth++) asked.offsets[nth] = lines[nth];
  if (flags & GPIO_V2_LINE_FLAG_OUTPUT) {
    asked.config.num_attrs = 1;
    asked.config.attrs[0].attr.id = GPIO_V2_LINE_ATTR_ID_OUTPUT_VALUES;
    asked.config.attrs[0].attr.values = levels;
    asked.config.attrs[0].mask = (1ull << count) - 1;
  }
  int chip = open(CHIP, O_RDWR);
  if (chip < 0 || ioctl(chip, GPIO_V2_GET_LINE_IOCTL, &asked) < 0) fail(CHIP);
  close(chip);
  return asked.fd;
}
`
