/*
 * Stands in for the kernel of a board, so that small programs can be run where there is none: loaded before the C library, it carries
 * their calls to nodes under /dev and files under /sys over a socket, named by STAND_IN, to a simulated board. One line each way; bytes
 * in hexadecimal. Time is the simulated board's: whoever sleeps waits for nothing.
 */
#define _GNU_SOURCE
#include <dirent.h>
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <linux/gpio.h>
#include <linux/i2c-dev.h>
#include <linux/i2c.h>
#include <linux/spi/spidev.h>
#include <poll.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <sys/mman.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <termios.h>
#include <time.h>
#include <unistd.h>

#define REAL(type, name, ...) ((type)dlsym(RTLD_NEXT, name))(__VA_ARGS__)
#define MOST (1 << 17)
#define FDS 256

/* What a descriptor stands for: b bus, s SPI, t port, c chip of lines, l lines asked for, e input events, w file that is written. */
static struct { char kind; int id; char path[256]; struct termios modes; } fds[FDS];
static char answer[MOST];
static int line_to_board = -1;

/* Asks the board one line and waits for its answer; the number behind "err" becomes errno. */
static int ask(const char *format, ...) {
  static char text[MOST];
  va_list given;
  va_start(given, format);
  int length = vsnprintf(text, sizeof text - 1, format, given);
  va_end(given);
  if (line_to_board < 0) {
    struct sockaddr_un at = { .sun_family = AF_UNIX };
    strncpy(at.sun_path, getenv("STAND_IN"), sizeof at.sun_path - 1);
    line_to_board = socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0);
    if (connect(line_to_board, (struct sockaddr *)&at, sizeof at) < 0) _exit(99);
  }
  text[length] = '\n';
  if (send(line_to_board, text, length + 1, 0) != length + 1) _exit(98);
  int got = 0;
  do {
    ssize_t more = recv(line_to_board, answer + got, sizeof answer - got - 1, 0);
    if (more <= 0) _exit(97);
    got += more;
  } while (answer[got - 1] != '\n');
  answer[got - 1] = 0;
  if (!strncmp(answer, "err ", 4)) return errno = atoi(answer + 4), -1;
  return 0;
}

static char *hex_of(const unsigned char *bytes, size_t length, char *out) {
  for (size_t i = 0; i < length; i++) sprintf(out + 2 * i, "%02x", bytes[i]);
  out[2 * length] = 0;
  return out;
}
/* Bytes of the answer behind its first word. */
static size_t bytes_of(unsigned char *out, size_t most) {
  const char *at = strchr(answer, ' ');
  size_t length = 0;
  unsigned value;
  for (at = at ? at + 1 : ""; length < most && sscanf(at, "%2x", &value) == 1 && *at; at += 2) out[length++] = value;
  return length;
}

static int fake(char kind, const char *path, int id) {
  int fd = memfd_create("stand-in", 0);
  if (fd < 0 || fd >= FDS) _exit(96);
  memset(&fds[fd], 0, sizeof fds[fd]);
  fds[fd].kind = kind;
  fds[fd].id = id;
  strncpy(fds[fd].path, path, sizeof fds[fd].path - 1);
  return fd;
}
static char kind_of(int fd) { return fd >= 0 && fd < FDS ? fds[fd].kind : 0; }

static int is_board(const char *path) {
  return !strncmp(path, "/sys/bus/", 9) || !strncmp(path, "/sys/class/", 11) || !strncmp(path, "/dev/i2c", 8)
    || !strncmp(path, "/dev/spidev", 11) || !strncmp(path, "/dev/tty", 8) || !strncmp(path, "/dev/serial", 11)
    || !strncmp(path, "/dev/gpiochip", 13) || !strncmp(path, "/dev/input/", 11);
}
/* Where the board's folders lie as real ones, empty files and all. */
static const char *in_root(const char *path) {
  static char found[1024];
  if (!path || !is_board(path)) return path;
  snprintf(found, sizeof found, "%s%s", getenv("STAND_IN_ROOT"), path);
  return found;
}

static int open_board(const char *path, int flags) {
  if (ask("open %s %d", path, flags & O_ACCMODE)) return -1;
  char kind = answer[3];
  int fd = fake(kind == 'f' ? (flags & O_ACCMODE ? 'w' : 0) : kind, path, 0);
  if (kind == 'f' && !(flags & O_ACCMODE)) {
    if (ask("content %s", path)) return -1;
    static unsigned char content[MOST];
    size_t length = bytes_of(content, sizeof content);
    if (REAL(ssize_t (*)(int, const void *, size_t), "write", fd, content, length) < 0) return -1;
    lseek(fd, 0, SEEK_SET);
  }
  return fd;
}
int open(const char *path, int flags, ...) {
  va_list more;
  va_start(more, flags);
  mode_t mode = va_arg(more, mode_t);
  va_end(more);
  return is_board(path) ? open_board(path, flags) : REAL(int (*)(const char *, int, ...), "open", path, flags, mode);
}
int open64(const char *path, int flags, ...) {
  va_list more;
  va_start(more, flags);
  mode_t mode = va_arg(more, mode_t);
  va_end(more);
  return open(path, flags, mode);
}
int stat(const char *path, struct stat *to) { return REAL(int (*)(const char *, struct stat *), "stat", in_root(path), to); }
int lstat(const char *path, struct stat *to) { return REAL(int (*)(const char *, struct stat *), "lstat", in_root(path), to); }
int stat64(const char *path, struct stat64 *to) { return REAL(int (*)(const char *, struct stat64 *), "stat64", in_root(path), to); }
int lstat64(const char *path, struct stat64 *to) { return REAL(int (*)(const char *, struct stat64 *), "lstat64", in_root(path), to); }
int fstatat64(int at, const char *path, struct stat64 *to, int flags) {
  return REAL(int (*)(int, const char *, struct stat64 *, int), "fstatat64", at, in_root(path), to, flags);
}
DIR *opendir(const char *path) { return REAL(DIR *(*)(const char *), "opendir", in_root(path)); }

int close(int fd) {
  int status = 0;
  if (kind_of(fd) == 'w') {
    static unsigned char content[4096];
    static char text[8193];
    lseek(fd, 0, SEEK_SET);
    ssize_t length = REAL(ssize_t (*)(int, void *, size_t), "read", fd, content, sizeof content);
    status = ask("write %s %s", fds[fd].path, hex_of(content, length > 0 ? length : 0, text));
  }
  else if (kind_of(fd) == 'l') status = ask("release %d", fds[fd].id);
  if (fd >= 0 && fd < FDS) fds[fd].kind = 0;
  int saved = errno;
  REAL(int (*)(int), "close", fd);
  errno = saved;
  return status;
}

ssize_t write(int fd, const void *bytes, size_t length) {
  if (kind_of(fd) != 't') return REAL(ssize_t (*)(int, const void *, size_t), "write", fd, bytes, length);
  static char text[MOST];
  return ask("write %s %s", fds[fd].path, hex_of(bytes, length, text)) ? -1 : (ssize_t)length;
}

ssize_t read(int fd, void *bytes, size_t length) {
  if (kind_of(fd) == 't') return ask("read %s %zu", fds[fd].path, length) ? -1 : (ssize_t)bytes_of(bytes, length);
  if (kind_of(fd) == 'l') {
    if (ask("edge %d -1", fds[fd].id)) return -1;
    struct gpio_v2_line_event event = { 0 };
    unsigned long long stamp;
    if (sscanf(answer, "ok %llu %u %u", &stamp, &event.id, &event.offset) != 3) return errno = EAGAIN, -1;
    event.timestamp_ns = stamp;
    memcpy(bytes, &event, sizeof event);
    return sizeof event;
  }
  return REAL(ssize_t (*)(int, void *, size_t), "read", fd, bytes, length);
}

int poll(struct pollfd *list, nfds_t count, int timeout) {
  int fd = count == 1 ? list[0].fd : -1;
  if (!kind_of(fd) || !strchr("tle", kind_of(fd))) return REAL(int (*)(struct pollfd *, nfds_t, int), "poll", list, count, timeout);
  if (fds[fd].kind == 'l' ? ask("wait %d %d", fds[fd].id, timeout) : ask("ready %s %d", fds[fd].path, timeout)) return -1;
  int isReady = atoi(answer + 3);
  list[0].revents = isReady ? POLLIN : 0;
  return isReady;
}

int tcgetattr(int fd, struct termios *modes) {
  if (kind_of(fd) != 't') return REAL(int (*)(int, struct termios *), "tcgetattr", fd, modes);
  *modes = fds[fd].modes;
  return 0;
}
int tcsetattr(int fd, int when, const struct termios *modes) {
  if (kind_of(fd) != 't') return REAL(int (*)(int, int, const struct termios *), "tcsetattr", fd, when, modes);
  static const struct { speed_t code; int rate; } rates[] = { { B1200, 1200 }, { B2400, 2400 }, { B4800, 4800 }, { B9600, 9600 },
    { B19200, 19200 }, { B38400, 38400 }, { B57600, 57600 }, { B115200, 115200 }, { B230400, 230400 }, { B460800, 460800 },
    { B921600, 921600 } };
  int rate = 0;
  for (size_t i = 0; i < sizeof rates / sizeof rates[0]; i++) if (rates[i].code == cfgetospeed(modes)) rate = rates[i].rate;
  fds[fd].modes = *modes;
  tcflag_t size = modes->c_cflag & CSIZE, flags = modes->c_cflag;
  return ask("port %s %d %d%c%d", fds[fd].path, rate, size == CS5 ? 5 : size == CS6 ? 6 : size == CS7 ? 7 : 8,
    flags & PARENB ? flags & PARODD ? 'O' : 'E' : 'N', flags & CSTOPB ? 2 : 1);
}

static int transfer(int fd, struct i2c_rdwr_ioctl_data *all) {
  static char text[8193];
  unsigned wanted = 0;
  struct i2c_msg *to = NULL;
  text[0] = 0;
  for (unsigned i = 0; i < all->nmsgs; i++) {
    struct i2c_msg *message = &all->msgs[i];
    if (message->flags & I2C_M_RD) wanted = message->len, to = message;
    else hex_of(message->buf, message->len, text);
  }
  if (ask("i2c %s %d %u %s", fds[fd].path, all->msgs[0].addr, wanted, text)) return -1;
  if (to) bytes_of(to->buf, wanted);
  return all->nmsgs;
}

int ioctl(int fd, unsigned long request, ...) {
  va_list more;
  va_start(more, request);
  void *given = va_arg(more, void *);
  va_end(more);
  char kind = kind_of(fd);
  if (kind == 'b' && request == I2C_RDWR) return transfer(fd, given);
  if (kind == 's' && request == SPI_IOC_MESSAGE(1)) {
    static char text[MOST];
    struct spi_ioc_transfer *message = given;
    text[0] = 0;
    if (ask("spi %s %u %s", fds[fd].path, message->speed_hz, hex_of((unsigned char *)(unsigned long)message->tx_buf, message->len, text)))
      return -1;
    if (message->rx_buf) bytes_of((unsigned char *)(unsigned long)message->rx_buf, message->len);
    return (int)message->len;
  }
  if (kind == 'c' && request == GPIO_V2_GET_LINE_IOCTL) {
    struct gpio_v2_line_request *wanted = given;
    char offsets[1024] = "";
    for (unsigned i = 0; i < wanted->num_lines; i++) sprintf(offsets + strlen(offsets), " %u", wanted->offsets[i]);
    unsigned long long levels = wanted->config.num_attrs ? wanted->config.attrs[0].attr.values : 0;
    if (ask("lines %s %llu %llu%s", fds[fd].path, (unsigned long long)wanted->config.flags, levels, offsets)) return -1;
    wanted->fd = fake('l', "lines", atoi(answer + 3));
    return 0;
  }
  if (kind == 'l' && (request == GPIO_V2_LINE_GET_VALUES_IOCTL || request == GPIO_V2_LINE_SET_VALUES_IOCTL)) {
    struct gpio_v2_line_values *values = given;
    int status = request == GPIO_V2_LINE_GET_VALUES_IOCTL
      ? ask("get %d", fds[fd].id) : ask("set %d %llu", fds[fd].id, (unsigned long long)values->bits);
    if (!status && request == GPIO_V2_LINE_GET_VALUES_IOCTL) values->bits = strtoull(answer + 3, NULL, 10) & values->mask;
    return status;
  }
  if (kind && kind != 'w') return errno = ENOTTY, -1;
  return REAL(int (*)(int, unsigned long, ...), "ioctl", fd, request, given);
}

/* Time is the board's. */
int clock_gettime(clockid_t clock, struct timespec *now) {
  if (clock != CLOCK_MONOTONIC || !getenv("STAND_IN")) return REAL(int (*)(clockid_t, struct timespec *), "clock_gettime", clock, now);
  ask("now");
  unsigned long long ns = strtoull(answer + 3, NULL, 10);
  *now = (struct timespec){ .tv_sec = ns / 1000000000, .tv_nsec = ns % 1000000000 };
  return 0;
}
static int pass(double seconds) { return ask("pass %.9f", seconds); }
int nanosleep(const struct timespec *for_time, struct timespec *left) {
  (void)left;
  return pass(for_time->tv_sec + for_time->tv_nsec / 1e9);
}
int clock_nanosleep(clockid_t clock, int flags, const struct timespec *until, struct timespec *left) {
  (void)left;
  struct timespec now = { 0 };
  if (flags & TIMER_ABSTIME) clock_gettime(clock, &now);
  double seconds = (until->tv_sec - now.tv_sec) + (until->tv_nsec - now.tv_nsec) / 1e9;
  return seconds > 0 ? pass(seconds) : 0;
}
unsigned sleep(unsigned seconds) { return pass(seconds); }
int usleep(useconds_t microseconds) { return pass(microseconds / 1e6); }
