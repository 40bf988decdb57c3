/** Modes of a serial port, by stty's names. */

/** As a port is when nobody has set it. Published: Linux, drivers/tty/tty_io.c, tty_std_termios. */
export const USUAL_MODES: readonly string[] = [
  'cread', 'icrnl', 'ixon', 'opost', 'onlcr', 'isig', 'icanon', 'iexten', 'echo', 'echoe', 'echok', 'echoctl', 'echoke',
]
