/*
 * Stands in for a bus and for the lines of a board, so that Debian's own programs can be run where there is neither: loaded before the C
 * library, it answers their calls to /dev/i2c-1 and /dev/gpiochip0 from a file of lines, named by STAND_IN:
 *   chip ADDRESS          answers at that address
 *   held ADDRESS          a driver has it
 *   register ADDRESS REGISTER VALUE
 *   lines COUNT
 *   used LINE in|out CONSUMER
 *   level LINE 0|1
 */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <linux/gpio.h>
#include <linux/i2c.h>
#include <linux/i2c-dev.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <sys/mman.h>
#include <sys/stat.h>
#include <sys/sysmacros.h>
#include <unistd.h>

#define MOST 1024
static int answers[128], held[128], registers[128][256], used[MOST], output[MOST], level[MOST], lines, address;
static char consumers[MOST][32];
static int bus_fd = -1, chip_fd = -1, values_fd = -1, asked[64], asked_count, read_done;

static void read_in(void) {
  if (read_done) return;
  read_done = 1;
  FILE *file = fopen(getenv("STAND_IN"), "r");
  char word[32], direction[8], consumer[32];
  int a, b, c;
  while (file && fscanf(file, "%31s", word) == 1) {
    if (!strcmp(word, "chip") && fscanf(file, "%i", &a) == 1) answers[a] = 1;
    else if (!strcmp(word, "held") && fscanf(file, "%i", &a) == 1) held[a] = 1;
    else if (!strcmp(word, "register") && fscanf(file, "%i %i %i", &a, &b, &c) == 3) registers[a][b] = c;
    else if (!strcmp(word, "lines") && fscanf(file, "%i", &a) == 1) lines = a;
    else if (!strcmp(word, "used") && fscanf(file, "%i %7s %31s", &a, direction, consumer) == 3) {
      used[a] = 1;
      output[a] = !strcmp(direction, "out");
      strcpy(consumers[a], consumer);
    }
    else if (!strcmp(word, "level") && fscanf(file, "%i %i", &a, &b) == 2) level[a] = b;
  }
  if (file) fclose(file);
}

static int plain(void) { return ((int (*)(const char *, int, ...))dlsym(RTLD_NEXT, "open"))("/dev/null", O_RDWR); }

int open(const char *path, int flags, ...) {
  va_list more;
  va_start(more, flags);
  mode_t mode = va_arg(more, mode_t);
  va_end(more);
  if (!strcmp(path, "/dev/i2c-1")) return read_in(), bus_fd = plain();
  if (!strcmp(path, "/dev/gpiochip0")) return read_in(), chip_fd = plain();
  if (!strncmp(path, "/sys/bus/gpio/devices/gpiochip0/dev", 35)) {
    int fd = memfd_create("dev", 0);
    if (write(fd, "254:0\n", 6) != 6) return -1;
    lseek(fd, 0, SEEK_SET);
    return fd;
  }
  return ((int (*)(const char *, int, ...))dlsym(RTLD_NEXT, "open"))(path, flags, mode);
}
int open64(const char *path, int flags, ...) { return open(path, flags, 0); }

FILE *fopen(const char *path, const char *mode) {
  if (!strncmp(path, "/sys/bus/gpio/devices/gpiochip0/dev", 35)) return fdopen(open(path, O_RDONLY), mode);
  return ((FILE *(*)(const char *, const char *))dlsym(RTLD_NEXT, "fopen"))(path, mode);
}
FILE *fopen64(const char *path, const char *mode) { return fopen(path, mode); }

int access(const char *path, int mode) {
  if (!strncmp(path, "/sys/bus/gpio/devices/gpiochip0", 31)) return 0;
  return ((int (*)(const char *, int))dlsym(RTLD_NEXT, "access"))(path, mode);
}

static int chip_stat(struct stat *found) {
  memset(found, 0, sizeof *found);
  found->st_mode = S_IFCHR | 0660;
  found->st_rdev = makedev(254, 0);
  return 0;
}
int lstat(const char *path, struct stat *found) {
  if (!strcmp(path, "/dev/gpiochip0")) return chip_stat(found);
  return ((int (*)(const char *, struct stat *))dlsym(RTLD_NEXT, "lstat"))(path, found);
}
int stat(const char *path, struct stat *found) {
  if (!strcmp(path, "/dev/gpiochip0")) return chip_stat(found);
  return ((int (*)(const char *, struct stat *))dlsym(RTLD_NEXT, "stat"))(path, found);
}

static int on_bus(unsigned long request, void *given) {
  if (request == I2C_FUNCS) {
    *(unsigned long *)given = I2C_FUNC_SMBUS_EMUL;
    return 0;
  }
  if (request == I2C_SLAVE || request == I2C_SLAVE_FORCE) {
    address = (int)(long)given;
    if (request == I2C_SLAVE && held[address]) return errno = EBUSY, -1;
    return 0;
  }
  if (request != I2C_SMBUS) return errno = ENOTTY, -1;
  struct i2c_smbus_ioctl_data *asked_for = given;
  if (!answers[address] && !held[address]) return errno = EREMOTEIO, -1;
  int at = asked_for->command;
  if (asked_for->size == I2C_SMBUS_BYTE_DATA && asked_for->read_write == I2C_SMBUS_READ) asked_for->data->byte = registers[address][at];
  if (asked_for->size == I2C_SMBUS_BYTE && asked_for->read_write == I2C_SMBUS_READ && asked_for->data) asked_for->data->byte = registers[address][0];
  if (asked_for->size == I2C_SMBUS_WORD_DATA && asked_for->read_write == I2C_SMBUS_READ) {
    asked_for->data->word = registers[address][at] | registers[address][(at + 1) & 0xFF] << 8;
  }
  return 0;
}

static int on_chip(unsigned long request, void *given) {
  if (request == GPIO_GET_CHIPINFO_IOCTL) {
    struct gpiochip_info *info = given;
    memset(info, 0, sizeof *info);
    strcpy(info->name, "gpiochip0");
    strcpy(info->label, "header-lines");
    info->lines = lines;
    return 0;
  }
  if (request == GPIO_GET_LINEINFO_IOCTL) {
    struct gpioline_info *info = given;
    int at = info->line_offset;
    info->flags = (used[at] ? GPIOLINE_FLAG_KERNEL : 0) | (output[at] ? GPIOLINE_FLAG_IS_OUT : 0);
    memset(info->name, 0, sizeof info->name);
    strcpy(info->consumer, consumers[at]);
    return 0;
  }
  if (request == GPIO_GET_LINEHANDLE_IOCTL) {
    struct gpiohandle_request *wanted = given;
    asked_count = wanted->lines;
    for (int i = 0; i < asked_count; i++) {
      asked[i] = wanted->lineoffsets[i];
      if (asked[i] >= lines) return errno = EINVAL, -1;
      if (used[asked[i]]) return errno = EBUSY, -1;
    }
    wanted->fd = values_fd = plain();
    return 0;
  }
  return errno = ENOTTY, -1;
}

static int on_values(unsigned long request, void *given) {
  if (request != GPIOHANDLE_GET_LINE_VALUES_IOCTL) return request == GPIOHANDLE_SET_LINE_VALUES_IOCTL ? 0 : (errno = ENOTTY, -1);
  struct gpiohandle_data *data = given;
  for (int i = 0; i < asked_count; i++) data->values[i] = level[asked[i]];
  return 0;
}

int ioctl(int fd, unsigned long request, ...) {
  va_list more;
  va_start(more, request);
  void *given = va_arg(more, void *);
  va_end(more);
  if (fd >= 0 && fd == bus_fd) return on_bus(request, given);
  if (fd >= 0 && fd == values_fd) return on_values(request, given);
  if (fd >= 0 && fd == chip_fd) return on_chip(request, given);
  return ((int (*)(int, unsigned long, ...))dlsym(RTLD_NEXT, "ioctl"))(fd, request, given);
}
