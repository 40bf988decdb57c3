/**
 * Plain settings of the key-value dialect, base parameters, and the words of the other dialects. All from memory unless a row says
 * otherwise.
 */
import { tableOf } from '../../collections/table'
import type { ParamSpec, SettingSpec } from './types'

const MEMORY = 'memory'

type Row = readonly [name: string, what: string, kind: SettingSpec['kind'], ...(number | string | string[] | Partial<SettingSpec>)[]]

/**
 * Settings of a group: name, what it does, kind; then least, most and unit of a number or the values of a choice; then whatever else is to
 * be said.
 */
function rows(group: SettingSpec['group'], entries: Row[]): SettingSpec[] {
  return entries.map((entry) => {
    const last = entry.at(-1)
    const more = typeof last === 'object' && !Array.isArray(last) ? last as Partial<SettingSpec> : {}
    const [name, what, kind, a, b, c] = entry
    return {
      name, what, kind, group, origin: MEMORY,
      ...(kind === 'number' && { min: a as number, max: b as number, ...(typeof c === 'string' && { unit: c }) }),
      ...(kind === 'choice' && { values: a as string[] }), ...more,
    }
  })
}

/** Has an effect only while the firmware sets the screen mode itself. */
const BY_FIRMWARE = { displayDrivers: ['firmware', 'legacy'] } satisfies Partial<SettingSpec>

/** Settings that few files have; the firmware knows them all the same. */
const SELDOM: SettingSpec[] = [
  ...rows('clock', [
    ['gpu_freq_min', 'slowest clock of the graphics', 'number', 100, 1100, 'MHz'],
    ['v3d_freq_min', 'slowest clock of the 3D part', 'number', 100, 1100, 'MHz'],
    ['h264_freq_min', 'slowest clock of the video part', 'number', 100, 1000, 'MHz'],
    ['isp_freq_min', 'slowest clock of the camera part', 'number', 100, 1000, 'MHz'],
    ['hevc_freq_min', 'slowest clock of the newer video part', 'number', 100, 1000, 'MHz'],
    ['core_freq_fixed', 'the core keeps one clock', 'switch'], ['arm_control', 'switches of the processor', 'text'],
    ['never_over_voltage', 'no voltage above the usual, for ever', 'switch'],
    ['over_voltage_sdram_c', 'voltage of the memory\'s controller', 'number', -16, 8, 'steps of 25 mV'],
    ['over_voltage_sdram_i', 'voltage of the memory\'s lines', 'number', -16, 8, 'steps of 25 mV'],
    ['over_voltage_sdram_p', 'voltage of the memory\'s timing', 'number', -16, 8, 'steps of 25 mV'],
    [
      'disable_pvt', 'the memory\'s rate of refresh is not measured', 'switch',
    ], ['avoid_pwm_pll', 'a rougher clock for analog sound', 'switch'],
    ['init_emmc_clock', 'clock of the card reader at the start', 'number', 1_000_000, 500_000_000, 'Hz'],
  ]),
  ...rows('screen', [
    ['hdmi_ignore_cec', 'as if the screen had no remote line', 'switch'],
    [
      'hdmi_ignore_cec_init', 'the screen is not switched on at the start', 'switch',
    ], ['cec_osd_name', 'name that the screen shows', 'text'],
    ['hdmi_channel_map', 'order of the sound channels', 'text', BY_FIRMWARE],
    ['hdmi_clock_change_limit', 'how much the screen\'s clock may change', 'number', 0, 100, BY_FIRMWARE],
    ['hdmi_force_edid_audio', 'as if the screen took every kind of sound', 'switch', BY_FIRMWARE],
    ['hdmi_force_edid_3d', 'as if the screen showed depth in every mode', 'switch', BY_FIRMWARE],
    ['hdmi_force_mode', 'no mode but the one that is asked for', 'switch', BY_FIRMWARE],
    ['hdmi_edid_filename', 'file with the screen\'s own data', 'text', BY_FIRMWARE],
    ['display_default_lcd', 'pictures go to the panel first', 'switch', BY_FIRMWARE],
    ['overscan_scale', 'the margin is for programs\' pictures too', 'switch', BY_FIRMWARE],
    ['framebuffer_priority', 'screen of the first picture', 'number', 0, 11, BY_FIRMWARE],
    ['dispmanx_offline', 'pictures are put together in memory', 'switch', BY_FIRMWARE],
    ['sdtv_disable_colourburst', 'the analog picture without colour', 'switch'],
    ['force_pwm_open', 'the analog sound stays ready', 'switch'], ['test_mode', 'a test picture and sound at the start', 'switch'],
  ]),
  ...rows('start', [
    ['ramfsaddr', 'where the first file system is put', 'text'],
    ['kernel_watchdog_timeout', 'seconds in which the kernel has to come up', 'number', 0, 3600, 's'],
    ['kernel_watchdog_partition', 'partition to start from when it did not', 'number', 0, 128],
    ['boot_watchdog_timeout', 'seconds in which the start has to get to the kernel', 'number', 0, 3600, 's'],
    ['boot_watchdog_partition', 'partition to start from when it did not', 'number', 0, 128],
    ['enable_gic', 'interrupts by the processor\'s own controller', 'switch'],
    ['upstream_kernel', 'device trees of the plain kernel', 'switch'],
    ['device_tree_param', 'the older word for dtparam', 'text', { repeats: true }],
    ['device_tree_overlay', 'the older word for dtoverlay', 'text', { repeats: true }],
    ['eeprom_write_protect', 'guards the first stage loader\'s memory', 'number', -1, 1],
    ['bootloader_update', 'the first stage loader may be renewed from the card', 'switch'],
    ['pause_burst_frames', 'the camera rests between pictures', 'switch'],
  ]),
]

export const SETTINGS: SettingSpec[] = [
  ...SELDOM,
  ...rows('clock', [
    ['arm_freq', 'clock of the processor', 'number', 200, 3000, 'MHz'],
    ['arm_freq_min', 'slowest clock of the processor', 'number', 100, 3000, 'MHz'],
    ['core_freq', 'clock of the core, which small serial ports and SPI follow', 'number', 100, 1000, 'MHz'],
    ['core_freq_min', 'slowest clock of the core', 'number', 100, 1000, 'MHz'],
    ['gpu_freq', 'clock of the graphics', 'number', 100, 1100, 'MHz'],
    ['v3d_freq', 'clock of the 3D part', 'number', 100, 1100, 'MHz'],
    ['h264_freq', 'clock of the video part', 'number', 100, 1000, 'MHz'],
    ['isp_freq', 'clock of the camera part', 'number', 100, 1100, 'MHz'],
    ['hevc_freq', 'clock of the video part', 'number', 100, 1000, 'MHz'],
    ['sdram_freq', 'clock of the memory', 'number', 200, 3200, 'MHz'],
    ['sdram_freq_min', 'slowest clock of the memory', 'number', 200, 3200, 'MHz'],
    ['over_voltage', 'core voltage in steps of 25 mV from the usual', 'number', -16, 8, 'steps'],
    ['over_voltage_min', 'core voltage at the slowest clock, in steps', 'number', -16, 8, 'steps'],
    ['over_voltage_sdram', 'memory voltage in steps', 'number', -16, 8, 'steps'],
    ['over_voltage_delta', 'added to the core voltage', 'number', -100_000, 100_000, 'µV'],
    ['arm_boost', 'lets boards that can run at their higher clock', 'switch'],
    ['turbo_mode', 'full clock all the time', 'switch'],
    ['initial_turbo', 'full clock for this long after the start', 'number', 0, 60, 's'],
    ['force_turbo', 'full clock all the time, whatever the load', 'switch'],
    ['temp_limit', 'where the clocks drop', 'number', 40, 85, '°C'],
    ['temp_soft_limit', 'where they begin to', 'number', 40, 70, '°C'],
    ['avoid_warnings', 'hides the under-voltage sign', 'number', 0, 2],
  ]),
  ...rows('screen', [
    ['hdmi_group', 'list the screen mode is from: 0 the screen says, 1 television, 2 monitor', 'number', 0, 2, BY_FIRMWARE],
    ['hdmi_mode', 'number of the screen mode in its list', 'number', 1, 107, BY_FIRMWARE],
    ['hdmi_cvt', 'a screen mode worked out: width height rate aspect margins interlace reduced', 'text', BY_FIRMWARE],
    ['hdmi_timings', 'a screen mode figure by figure', 'text', BY_FIRMWARE],
    ['hdmi_drive', '1 picture only, 2 picture and sound', 'number', 1, 2, BY_FIRMWARE],
    ['hdmi_force_hotplug', 'takes the screen for plugged in', 'switch', BY_FIRMWARE],
    ['hdmi_ignore_hotplug', 'takes the screen for unplugged', 'switch', BY_FIRMWARE],
    ['hdmi_blanking', 'what switching the screen off does', 'number', 0, 2, BY_FIRMWARE],
    ['hdmi_safe', 'the most careful screen settings together', 'switch', BY_FIRMWARE],
    ['hdmi_ignore_edid', 'does not ask the screen', 'text', BY_FIRMWARE],
    ['hdmi_edid_file', 'reads what the screen would say from a file', 'switch', BY_FIRMWARE],
    ['hdmi_ignore_edid_audio', 'does not ask the screen about sound', 'switch', BY_FIRMWARE],
    ['hdmi_pixel_encoding', 'range of the colours', 'number', 0, 4, BY_FIRMWARE],
    ['hdmi_enable_4kp60', 'the highest screen modes', 'switch'],
    ['hdmi_max_pixel_freq', 'most pixels a second', 'number', 1_000_000, 600_000_000, 'Hz', BY_FIRMWARE],
    ['config_hdmi_boost', 'strength of the video signal', 'number', 0, 11, BY_FIRMWARE],
    ['display_rotate', 'rotation of the picture', 'text', { displayDrivers: ['legacy'] }],
    ['display_hdmi_rotate', 'rotation of the picture on the video cable', 'text', { displayDrivers: ['firmware', 'legacy'] }],
    ['display_lcd_rotate', 'rotation of the picture on the display connector', 'text', { displayDrivers: ['firmware', 'legacy'] }],
    ['lcd_rotate', 'rotation of the panel with its touch', 'number', 0, 3, { displayDrivers: ['firmware', 'legacy'] }],
    ['ignore_lcd', 'does not look for a panel', 'switch'],
    ['disable_touchscreen', 'the panel\'s touch stays off', 'switch', BY_FIRMWARE],
    ['display_auto_detect', 'loads the overlay of a panel that is found', 'switch'],
    ['disable_overscan', 'no margin round the picture', 'switch'],
    ['overscan_left', 'margin at the left', 'number', -128, 128, 'pixels', BY_FIRMWARE],
    ['overscan_right', 'margin at the right', 'number', -128, 128, 'pixels', BY_FIRMWARE],
    ['overscan_top', 'margin at the top', 'number', -128, 128, 'pixels', BY_FIRMWARE],
    ['overscan_bottom', 'margin at the bottom', 'number', -128, 128, 'pixels', BY_FIRMWARE],
    ['framebuffer_width', 'columns of the first picture', 'number', 16, 4096, BY_FIRMWARE],
    ['framebuffer_height', 'rows of the first picture', 'number', 16, 4096, BY_FIRMWARE],
    ['framebuffer_depth', 'bits a pixel', 'choice', ['8', '16', '24', '32'], BY_FIRMWARE],
    ['framebuffer_ignore_alpha', 'no transparency', 'switch', BY_FIRMWARE],
    ['max_framebuffers', 'pictures the firmware makes', 'number', 0, 4],
    ['disable_fw_kms_setup', 'the firmware hands no screen mode to the kernel', 'switch'],
    ['disable_splash', 'no coloured square at the start', 'switch'],
    ['sdtv_mode', 'norm of the analog picture', 'choice', ['0', '1', '2', '3', '16', '18'], { displayDrivers: ['firmware', 'legacy'] }],
    ['sdtv_aspect', 'shape of the analog picture', 'number', 1, 3, BY_FIRMWARE],
    ['enable_tvout', 'the analog picture is on', 'switch'],
    ['enable_dpi_lcd', 'the parallel panel is on', 'switch', { displayDrivers: ['firmware', 'legacy'] }],
    ['dpi_group', 'list the panel\'s mode is from', 'number', 1, 2, BY_FIRMWARE],
    ['dpi_mode', 'number of the panel\'s mode', 'number', 1, 107, BY_FIRMWARE],
    ['dpi_output_format', 'order of the panel\'s lines', 'text', BY_FIRMWARE],
    ['dpi_timings', 'the panel\'s timing', 'text', BY_FIRMWARE],
    ['gpu_mem', 'memory for the graphics', 'number', 16, 944, 'MB'],
  ]),
  ...rows('memory', [
    ['gpu_mem_256', 'graphics memory on boards with 256 MB', 'number', 16, 192, 'MB'],
    ['gpu_mem_512', 'graphics memory on boards with 512 MB', 'number', 16, 448, 'MB'],
    ['gpu_mem_1024', 'graphics memory on boards with 1 GB or more', 'number', 16, 944, 'MB'],
    ['total_mem', 'memory the board may use', 'number', 128, 16_384, 'MB'],
    ['disable_l2cache', 'without the second cache', 'switch'],
  ]),
  ...rows('start', [
    ['kernel', 'the kernel that is started', 'text'], ['arm_64bit', '1 starts the kernel in 64 bit', 'switch'],
    ['initramfs', 'the first file system of the kernel', 'text', { repeats: true }],
    ['auto_initramfs', 'looks for the first file system by the kernel\'s name', 'switch'],
    ['ramfsfile', 'the first file system of the kernel', 'text'], ['cmdline', 'file of the kernel command line', 'text'],
    ['device_tree', 'device tree of the board', 'text'], ['device_tree_address', 'where it is put', 'text'],
    ['device_tree_end', 'where it ends', 'text'], ['kernel_address', 'where the kernel is put', 'text'],
    ['dtdebug', 'tells more of overlays', 'switch'],
    ['os_prefix', 'put before the names of kernel and command line', 'text'],
    ['overlay_prefix', 'put before the names of overlays', 'text'], ['os_check', 'checks that the image fits the board', 'switch'],
    ['boot_delay', 'waits before the kernel', 'number', 0, 60, 's'],
    ['boot_delay_ms', 'waits before the kernel', 'number', 0, 60_000, 'ms'],
    ['disable_poe_fan', 'the fan of a network-fed board stays off', 'switch'],
    ['bootcode_delay', 'waits before the second stage', 'number', 0, 60, 's'], ['start_file', 'the firmware', 'text'],
    ['fixup_file', 'the firmware\'s other half', 'text'], ['start_x', 'the firmware with the camera', 'switch'],
    ['start_debug', 'the firmware that tells more', 'switch'], ['start_cd', 'the smallest firmware', 'switch'],
    ['armstub', 'code before the kernel', 'text'], ['arm_peri_high', 'peripherals high in memory', 'switch'],
    ['total_mem_check', 'checks the memory', 'switch'], ['disable_commandline_tags', 'no tags for the kernel', 'switch'],
    ['boot_load_flags', 'how the firmware loads', 'text'], ['uart_2ndstage', 'the firmware talks on the serial port', 'switch'],
    ['enable_jtag_gpio', 'the test port is on lines 22 to 27', 'switch'],
    ['program_usb_boot_mode', 'lets the board start from USB for good', 'switch'],
    ['program_usb_boot_timeout', 'waits longer for USB', 'switch'],
    ['max_usb_current', 'more current at the USB ports of older boards', 'switch'],
    ['tryboot_a_b', 'two systems that take turns', 'switch'], ['boot_ramdisk', 'starts from memory', 'switch'],
  ]),
  ...rows('interface', [
    ['enable_uart', 'the first serial port is on, and the core clock held still for it', 'switch'],
    ['init_uart_baud', 'rate of the serial port at the start', 'number', 300, 4_000_000, 'Bd'],
    ['init_uart_clock', 'clock of the serial port', 'number', 1_000_000, 1_000_000_000, 'Hz'],
    ['uart_clk', 'clock of the serial port', 'number', 1_000_000, 1_000_000_000, 'Hz'],
    ['force_eeprom_read', '0 does not look for an add-on board\'s memory', 'switch'],
    ['disable_audio_dither', 'plain analog sound', 'switch'], ['enable_audio_dither', 'smoothed analog sound', 'switch'],
    ['audio_pwm_mode', 'kind of analog sound', 'number', 0, 2], ['pwm_sample_bits', 'bits of the analog sound', 'number', 7, 16],
    ['disable_camera_led', 'the camera\'s lamp stays off', 'switch'], ['awb_auto_is_greyworld', 'for cameras without a filter', 'switch'],
    ['otg_mode', 'the USB circuit is a host of the newer kind', 'switch'], ['decode_MPG2', 'key of a video format', 'text'],
    ['decode_WVC1', 'key of a video format', 'text'],
    ['disable_wifi', 'nothing: the overlay of that name does it', 'switch', { gone: 'write dtoverlay=disable-wifi' }],
    ['disable_bt', 'nothing: the overlay of that name does it', 'switch', { gone: 'write dtoverlay=disable-bt' }],
    ['usb_max_current_enable', 'takes the supply for one of 5 A', 'switch'], ['pciex4_reset', 'resets the bridge at the start', 'switch'],
    ['enable_rp1_uart', 'the bridge\'s serial port is ready early', 'switch'],
  ]),
  ...rows(
    'line',
    [
      ['gpio', 'sets lines at the start: LINES=op,dh and the like', 'text', { repeats: true }],
      ['dtparam', 'parameters', 'text', { repeats: true }], ['dtoverlay', 'an overlay', 'text', { repeats: true }],
    ],
  ),
  ...rows('camera', [['camera_auto_detect', 'loads the overlay of a camera that is found', 'switch']]),
  ...rows(
    'supply',
    [
      ['psu_max_current', 'what the supply gives, in mA', 'number', 500, 6000, 'mA'],
      ['wake_on_gpio', 'a line starts the board again', 'switch'], ['power_force_3v3_pwm', 'the 3.3 V supply never saves', 'switch'],
    ],
  ),
]

const flag = (name: string, what: string): ParamSpec => ({ name, kind: 'flag', what })
const figure = (name: string, min: number, max: number, what: string): ParamSpec => ({ name, kind: 'number', min, max, what })

/** Parameters of the base tree, and what each switches on. */
export const BASE_PARAMS: (ParamSpec & { enables?: string, same?: string })[] = [
  { ...flag('i2c_arm', 'I²C on positions 3 and 5'), enables: 'i2c1' },
  { ...flag('i2c1', 'I²C 1'), enables: 'i2c1', same: 'i2c_arm' },
  { ...flag('i2c', 'I²C on positions 3 and 5'), enables: 'i2c1', same: 'i2c_arm' },
  { ...flag('i2c_vc', 'I²C on positions 27 and 28, which camera and display share'), enables: 'i2c0' },
  { ...flag('i2c0', 'I²C 0'), enables: 'i2c0', same: 'i2c_vc' },
  figure('i2c_arm_baudrate', 10_000, 1_000_000, 'clock of I²C 1 in Hz'),
  { ...figure('i2c_baudrate', 10_000, 1_000_000, 'clock of I²C 1 in Hz'), same: 'i2c_arm_baudrate' },
  { ...figure('i2c1_baudrate', 10_000, 1_000_000, 'clock of I²C 1 in Hz'), same: 'i2c_arm_baudrate' },
  figure('i2c0_baudrate', 10_000, 1_000_000, 'clock of I²C 0 in Hz'), figure('i2c_vc_baudrate', 10_000, 1_000_000, 'clock of I²C 0 in Hz'),
  { ...flag('spi', 'SPI 0 with two selects'), enables: 'spi0' },
  { ...flag('i2s', 'the sound bus on lines 18 to 21'), enables: 'i2s' },
  flag('audio', 'the board\'s own analog sound'),
  flag('random', 'the random number circuit'), flag('watchdog', 'the watchdog restarts a board that hangs'),
  flag('act_led_activelow', 'the activity lamp is lit by a low level'), flag('pwr_led_activelow', 'the power lamp is lit by a low level'),
  { name: 'act_led_trigger', kind: 'text', what: 'what the activity lamp shows' },
  { name: 'pwr_led_trigger', kind: 'text', what: 'what the power lamp shows' },
  { name: 'act_led_gpio', kind: 'line', min: 0, max: 27, what: 'line of the activity lamp' },
  { name: 'pwr_led_gpio', kind: 'line', min: 0, max: 27, what: 'line of the power lamp' },
  flag('krnbt', 'the kernel starts the radio'), figure('krnbt_baudrate', 9600, 4_000_000, 'rate of the radio'),
  flag('eee', 'the network port saves when idle'), figure('eth_led0', 0, 15, 'first lamp of the network port'),
  figure('eth_led1', 0, 15, 'second lamp of the network port'), figure('eth_max_speed', 10, 1000, 'fastest network, in Mbit/s'),
  flag('sd_poll_once', 'looks for the card only at the start'), figure('sd_overclock', 0, 100, 'card clock in MHz'),
  flag('sd_cqe', 'queued card commands'), flag('pciex1', 'the fast socket for add-ons'),
  figure('pciex1_gen', 1, 3, 'speed of that socket'), flag('nvme', 'the fast socket for add-ons'), flag('rtc', 'the board\'s own clock'),
  figure('rtc_bbat_vchg', 0, 4_400_000, 'charging voltage of the clock\'s cell in µV; 0 for cells that must not be charged'),
  { ...flag('uart0', 'serial port 0'), enables: 'uart0' }, { ...flag('uart0_console', 'the console on serial port 0'), enables: 'uart0' },
  { ...flag('uart1', 'serial port 1'), enables: 'uart1' },
  flag('cooling_fan', 'the fan on the board\'s own socket'), flag('suspend', 'the power button sends to sleep'),
  flag('ant1', 'the antenna on the board'), flag('ant2', 'the outer antenna'), flag('noant', 'no antenna'),
  flag('wifiaddr', 'network address of the radio'), flag('strict_gpiod', 'lines fall back when a program lets go'),
  ...[0, 1, 2, 3].flatMap(i => [
    figure(`fan_temp${i}`, 0, 110_000, `step ${i + 1} of the fan: from this temperature, in thousandths of a degree`),
    figure(`fan_temp${i}_hyst`, 0, 50_000, `step ${i + 1} of the fan: how much cooler it gets before it slows`),
    figure(`fan_temp${i}_speed`, 0, 255, `step ${i + 1} of the fan: speed`),
  ]),
]

/** Words of the kernel command line. Published: Linux kernel, "The kernel's command-line parameters"; the rest memory. */
export const COMMAND_WORDS = tableOf<string>({
  'console': 'where the kernel\'s messages and a login go', 'root': 'the partition the system is on', 'rootfstype': 'its file system',
  'rootwait': 'waits until the partition is there', 'rootdelay': 'waits so many seconds for it', 'rootflags': 'how it is mounted',
  'ro': 'mounts it for reading first', 'rw': 'mounts it for writing',
  'fsck.repair': 'mends the file system at the start', 'quiet': 'hides most messages', 'splash': 'shows a picture instead',
  'loglevel': 'which messages are shown', 'init': 'the first program', 'elevator': 'how card accesses are ordered',
  'net.ifnames': '0 keeps the old names of network ports', 'biosdevname': 'names of network ports', 'ip': 'a fixed network address',
  'dwc_otg.lpm_enable': 'power saving of the USB circuit', 'dwc_otg.speed': '1 holds USB at full speed',
  'plymouth.ignore-serial-consoles': 'the start picture does not look at the serial port',
  'vt.global_cursor_default': '0 hides the cursor', 'logo.nologo': 'hides the start pictures',
  'consoleblank': 'seconds until the console goes dark', 'fbcon': 'where the console\'s text goes, and its rotation',
  'video': 'screen mode of a socket, and its rotation', 'cma': 'memory kept for pictures', 'cgroup_enable': 'groups of processes',
  'cgroup_memory': 'memory of groups', 'isolcpus': 'cores kept free', 'usb-storage.quirks': 'careful with some USB disks',
  'usbhid.mousepoll': 'how often the mouse is asked', 'usbcore.autosuspend': 'seconds until USB parts sleep',
  'systemd.run': 'runs something once', 'systemd.unit': 'where the start goes', 'modules-load': 'drivers loaded first',
  'module_blacklist': 'drivers never loaded', 'panic': 'seconds until a restart after a crash', 'maxcpus': 'cores in use',
  'mem': 'memory in use', 'kgdboc': 'the debugger\'s port', 'earlycon': 'messages before the console is there',
  '8250.nr_uarts': 'how many small serial ports the kernel makes', 'snd_bcm2835.enable_hdmi': 'sound over the video cable',
  'snd_bcm2835.enable_headphones': 'sound at the analog socket', 'drm.edid_firmware': 'what the screen would say, from a file',
  'coherent_pool': 'memory for devices', 'selinux': 'access rules', 'apparmor': 'access rules', 'security': 'access rules',
  'audit': 'records of access', 'nomodeset': 'no screen mode by the kernel', 'smsc95xx.macaddr': 'address of the network port',
  'vc_mem.mem_base': 'memory of the graphics', 'vc_mem.mem_size': 'memory of the graphics',
  'sdhci.debug_quirks2': 'how the card is driven', 'cfg80211.ieee80211_regdom': 'country of the radio',
  'threadirqs': 'interrupts as threads', 'nohz': 'fewer clock ticks', 'rcu_nocbs': 'cores without kernel work', 'ubi.mtd': 'flash in use',
  'ds': 'a start-up data source', 'resize': 'grows the partition once', 'bcm2708_fb.fbwidth': 'columns of the first picture',
  'bcm2708_fb.fbheight': 'rows of the first picture', 'bcm2708_fb.fbdepth': 'bits a pixel', 'spidev.bufsiz': 'longest SPI transfer',
  'ipv6.disable': '1 leaves the newer network protocol out', 'zswap.enabled': 'compressed memory', 'swiotlb': 'bounce memory',
  'pci': 'how the add-on bus is driven', 'pcie_aspm': 'power saving of the add-on bus', 'reboot': 'how a restart is done',
  'nosmp': 'one core only', 'printk.devkmsg': 'who may write messages', 'earlyprintk': 'messages before the console is there',
})

/** Keys of the environment list. practice */
export const ENVIRONMENT = tableOf<string>({
  overlays: 'overlays of the image, by name, laid on in order', user_overlays: 'the maker\'s own overlays, by name, laid on after',
  overlay_prefix: 'put before the names in overlays', verbosity: 'how much the kernel tells, 0 to 7', bootlogo: 'picture at the start',
  console: 'where messages go: serial, display or both', disp_mode: 'screen mode', rootdev: 'the partition the system is on',
  rootfstype: 'its file system', fdtfile: 'device tree of the board', extraargs: 'added to the kernel command line',
  extraboardargs: 'added to the kernel command line', usbstoragequirks: 'careful with some USB disks',
  docker_optimizations: 'groups of processes', ethaddr: 'address of the network port', eth1addr: 'address of the second network port',
  earlycon: 'messages before the console is there', earlyprintk: 'messages before the console is there',
  kernel_comp_addr_r: 'where the kernel is put', prefix: 'folder of the files',
})
