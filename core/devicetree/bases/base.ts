/**
 * The base tree of a board class, written from its catalogue file: our own and minimal, true to the kernel's bindings.
 * It holds what boot files and overlays can speak of: the header's controllers with labels and pin groups, the devices
 * for programs on SPI 0, sockets, lamps, and the parameters of the base. It starts no board; it is for rehearsing.
 *
 * Bindings: published, Linux kernel `Documentation/devicetree/bindings` (i2c/brcm,bcm2835-i2c, spi/brcm,bcm2835-spi,
 * serial/pl011, pinctrl/brcm,bcm2835-gpio, thermal/thermal-zones). Addresses: memory.
 */
import { tableOf } from '../../collections/table'
import type { Board, Controller, Route } from '../../catalogue/types'

/** Register addresses of the classic family's controllers, by label. memory */
const ADDRESSES: Readonly<Record<string, number>> = {
  i2c0: 0x7E205000, i2c1: 0x7E804000, i2c2: 0x7E805000, i2c3: 0x7E205600, i2c4: 0x7E205800, i2c5: 0x7E205A00,
  i2c6: 0x7E205C00,
  spi0: 0x7E204000, spi1: 0x7E215080, spi2: 0x7E2150C0, spi3: 0x7E204600, spi4: 0x7E204800, spi5: 0x7E204A00,
  spi6: 0x7E204C00,
  uart0: 0x7E201000, uart1: 0x7E215040, uart2: 0x7E201400, uart3: 0x7E201600, uart4: 0x7E201800, uart5: 0x7E201A00,
}

/** Multiplexer settings as the classic binding counts them. Published: kernel, pinctrl/brcm,bcm2835-gpio. */
export const SETTING_NUMBER = tableOf<number>({ input: 0, output: 1, alt5: 2, alt4: 3, alt0: 4, alt1: 5, alt2: 6,
  alt3: 7 })

const COMPATIBLE = { i2c: 'brcm,bcm2835-i2c', spi: 'brcm,bcm2835-spi', serial: 'arm,pl011' }

/** Source text of the base tree. */
export function baseSource(board: Board): string {
  const bridge = hasBridge(board)
  const controllers = board.controllers.filter(controller =>
    controller.kind === 'i2c' || controller.kind === 'spi' || controller.kind === 'serial')
  // On some boards the name serial0 is that of a socket of its own, and the header's port goes by its driver's name.
  const headerIsFirst = board.controllers.find(({ id }) => id === 'uart0')?.device !== '/dev/ttyAMA0'
  const small = board.controllers.some(controller => controller.variants?.some(variant => !variant.full))
  const listed = (kind: Controller['kind'], name: string) => controllers.filter(controller => controller.kind === kind)
    .map(({ id }) => `\t\t${name}${/\d+$/.exec(id)?.[0] ?? '0'} = &${id};`)
  const groups = [
    ...controllers, ...board.controllers.filter(({ id }) => id === 'i2s'),
  ].flatMap(controller => pinGroups(board, controller, bridge))
  return `/dts-v1/;

/ {
	compatible = "voltaris,${board.id}", "brcm,bcm2835";
	model = "${board.name.replace(/"/g, '')}";
	#address-cells = <1>;
	#size-cells = <1>;
	interrupt-parent = <&intc>;

	aliases {
${[
  ...listed('i2c', 'i2c'), ...listed('spi', 'spi'),
  ...listed('serial', 'serial-port-').map(line => line.replace('serial-port-', 'serial')).filter(line => !line.includes('serial0')),
  ...headerIsFirst ? [`\t\tserial0 = ${small ? '&uart1' : '&uart0'};`] : [],
  ...small && !listed('serial', 'x').some(line => line.includes('&uart1')) ? ['\t\tserial1 = &uart0;'] : [], '\t\tgpio0 = &gpio;',
].join('\n')}
	};

	chosen {
		stdout-path = "${headerIsFirst ? 'serial0' : 'serial10'}:115200n8";
	};

	memory@0 {
		device_type = "memory";
		reg = <0 0x40000000>;
	};

	clocks {
		clk_core: clock-core {
			compatible = "fixed-clock";
			#clock-cells = <0>;
			clock-frequency = <250000000>;
		};
	};

	vdd_5v0_reg: regulator-5v0 {
		compatible = "regulator-fixed";
		regulator-name = "5V";
		regulator-min-microvolt = <5000000>;
		regulator-max-microvolt = <5000000>;
		regulator-always-on;
	};

	vdd_3v3_reg: regulator-3v3 {
		compatible = "regulator-fixed";
		regulator-name = "3V3";
		regulator-min-microvolt = <3300000>;
		regulator-max-microvolt = <3300000>;
		regulator-always-on;
		vin-supply = <&vdd_5v0_reg>;
	};

	thermal-zones {
		cpu_thermal: cpu-thermal {
			polling-delay-passive = <0>;
			polling-delay = <1000>;

			trips {
${board.sockets.fan ? FAN_TRIP : ''}			};

			cooling-maps {
${board.sockets.fan ? FAN_MAP : ''}			};
		};
	};

	soc {
		compatible = "simple-bus";
		#address-cells = <1>;
		#size-cells = <1>;
		ranges;

		intc: interrupt-controller@7e00b200 {
			compatible = "brcm,bcm2836-armctrl-ic";
			reg = <0x7e00b200 0x200>;
			interrupt-controller;
			#interrupt-cells = <2>;
			#address-cells = <0>;
		};

		gpio: gpio@7e200000 {
			compatible = "${bridge ? 'voltaris,bridge-gpio' : 'brcm,bcm2835-gpio'}";
			reg = <0x7e200000 0xb4>;
			interrupts = <2 17>;
			gpio-controller;
			#gpio-cells = <2>;
			interrupt-controller;
			#interrupt-cells = <2>;
			#address-cells = <0>;
			gpio-line-names = ${lineNames(board)};

${[...groups, ...extraGroups(bridge)].join('\n\n')}
		};

${controllers.map(controller => controllerNode(controller, board)).join('\n\n')}
${small && !controllers.some(({ id }) => id === 'uart1') ? `\n${smallPort()}\n` : ''}
		i2s: i2s@7e203000 {
			compatible = "brcm,bcm2835-i2s";
			reg = <0x7e203000 0x24>;
			clocks = <&clk_core>;
			#sound-dai-cells = <0>;
			${board.controllers.some(({ id }) => id === 'i2s')
        ? 'pinctrl-names = "default";\n\t\t\tpinctrl-0 = <&i2s_pins>;\n\t\t\t'
        : ''}status = "disabled";
		};

		pwm: pwm@7e20c000 {
			compatible = "brcm,bcm2835-pwm";
			reg = <0x7e20c000 0x28>;
			clocks = <&clk_core>;
			#pwm-cells = <3>;
			status = "disabled";
		};

		dpi: dpi@7e208000 {
			compatible = "brcm,bcm2835-dpi";
			reg = <0x7e208000 0x8c>;
			clocks = <&clk_core>;
			status = "disabled";
		};

		fan_pwm: pwm@7e20c800 {
			compatible = "brcm,bcm2835-pwm";
			reg = <0x7e20c800 0x28>;
			clocks = <&clk_core>;
			#pwm-cells = <3>;
			status = "${board.sockets.fan ? 'okay' : 'disabled'}";
		};

		emmc: mmc@7e300000 {
			compatible = "brcm,bcm2835-mmc";
			reg = <0x7e300000 0x100>;
			clocks = <&clk_core>;
			status = "disabled";
		};

		usb: usb@7e980000 {
			compatible = "brcm,bcm2708-usb";
			reg = <0x7e980000 0x10000>;
			status = "okay";
		};
	};

	display {
		compatible = "brcm,bcm2835-vc4";
		status = "disabled";
	};

	dsi {
		compatible = "brcm,bcm2835-dsi1";
		status = "disabled";
	};

	csi {
		compatible = "brcm,bcm2835-unicam";
		status = "disabled";
	};

	mmc-card {
		compatible = "brcm,bcm2835-sdhost";
		status = "okay";
	};

	mmc-radio {
		compatible = "brcm,bcm2835-mmc";
		status = "okay";
	};

	watchdog {
		compatible = "brcm,bcm2835-pm-wdt";
		status = "okay";
	};

	random {
		compatible = "brcm,bcm2835-rng";
		status = "okay";
	};

	audio: audio {
		compatible = "brcm,bcm2835-audio";
		status = "disabled";
	};

	rtc: rtc {
		compatible = "voltaris,own-clock";
		status = "okay";
	};

	fan: fan {
		compatible = "pwm-fan";
		pwms = <&fan_pwm 0 41566 0>;
		#cooling-cells = <2>;
		cooling-levels = <0 75 125 175 250>;
		status = "${board.sockets.fan ? 'okay' : 'disabled'}";
	};

	leds {
		compatible = "gpio-leds";

		act {
			label = "ACT";
			linux,default-trigger = "mmc0";
		};
	};

	__overrides__ {
${overrides(board).join('\n')}
	};
};
`
}

/** The first step of the fan on the board's own socket. memory */
const FAN_TRIP = `\t\t\t\tfan_trip: fan-trip {\n\t\t\t\t\ttemperature = <50000>;\n\t\t\t\t\thysteresis = <5000>;\n`
  + `\t\t\t\t\ttype = "active";\n\t\t\t\t};\n`
const FAN_MAP = '\t\t\t\tfan-map {\n\t\t\t\t\ttrip = <&fan_trip>;\n\t\t\t\t\tcooling-device = <&fan 1 1>;\n\t\t\t\t};\n'

/** Boards whose header hangs on an I/O bridge: their pin groups name pins and a function. */
const hasBridge = (board: Board) =>
  board.lines.some(line => line.functions.some(entry => /^a\d$/.test(entry.setting)))
  || board.controllers.some(({ id }) => id === 'pwm.3')

function lineNames(board: Board): string {
  const last = Math.max(0, ...board.lines.map(entry => entry.line))
  const at = (line: number) => board.header.find(entry => entry.line === line)?.position
  return Array.from({ length: last + 1 }, (_, line) => `"${at(line) === undefined ? '' : `P${at(line)}`}"`).join(', ')
}

const settingOf = (board: Board, line: number, controller: string) =>
  board.lines.find(entry => entry.line === line)?.functions.find(entry => entry.controller === controller)?.setting
  ?? 'alt0'

function groupNode(name: string, lines: number[], setting: (line: number) => string, functionName: string,
  bridge: boolean): string {
  const settings = bridge
    ? `\t\t\t\tpins = ${lines.map(line => `"gpio${line}"`).join(', ') || '""'};\n\t\t\t\tfunction = "${functionName}";`
    : `\t\t\t\tbrcm,pins = <${lines.join(' ')}>;\n\t\t\t\tbrcm,function = `
      + `<${[...new Set(lines.map(line => SETTING_NUMBER[setting(line)] ?? 4))].join(' ') || '0'}>;`
  return `\t\t\t${name}: ${name} {\n${settings}\n\t\t\t};`
}

function pinGroups(board: Board, controller: Controller, bridge: boolean): string[] {
  const { id, kind, routes } = controller
  const { lines }: Route = routes[0]!
  const named = (filter: (signal: string) => boolean) =>
    Object.entries(lines).filter(([signal]) => filter(signal)).map(([, line]) => line)
  const setting = (line: number) => settingOf(board, line, id)
  const group = (suffix: string, members: number[],
    how = setting) => groupNode(`${id}_${suffix}`, members, how, id, bridge)
  if (kind === 'spi') {
    return [
      group('pins', named(signal => !signal.startsWith('select'))),
      group('cs_pins', named(signal => signal.startsWith('select')), () => 'output'),
    ]
  }
  return [group('pins', kind === 'serial' ? named(signal => signal === 'tx' || signal === 'rx') : Object.values(lines)),
    ...id === 'uart0' && !board.controllers.some(other => other.id === 'uart1')
      ? [groupNode('uart1_pins', [lines.tx!, lines.rx!], () => 'alt5', 'uart1', bridge)]
      : []]
}

function extraGroups(bridge: boolean): string[] {
  const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i)
  return [
    groupNode('pwm_pins', [18], () => 'alt5', 'pwm0', bridge),
    groupNode('audio_pins', [], () => 'alt0', 'pwm0', bridge),
    groupNode('dpi_pins', range(0, 21), () => 'alt2', 'dpi', bridge),
    groupNode('emmc_pins', range(22, 27), () => 'alt3', 'sdio', bridge),
  ]
}

function controllerNode(controller: Controller, board: Board): string {
  const { id, kind } = controller
  const address = ADDRESSES[id] ?? 0x7E300000 + 0x1000 * board.controllers.indexOf(controller)
  const type = kind === 'serial' ? 'serial' : kind
  const full = id === 'uart1' || kind !== 'serial' ? COMPATIBLE[kind as keyof typeof COMPATIBLE] : COMPATIBLE.serial
  const pins = kind === 'spi' ? `<&${id}_pins &${id}_cs_pins>` : `<&${id}_pins>`
  let more: string[]
  if (kind === 'i2c') more = ['clock-frequency = <100000>;', '#address-cells = <1>;', '#size-cells = <0>;']
  else more = kind === 'spi'
    ? ['#address-cells = <1>;', '#size-cells = <0>;', ...id === 'spi0'
        ? [`cs-gpios = <&gpio 8 1>, <&gpio 7 1>;`]
        : []]
    : []
  const children = id === 'spi0'
    ? [0, 1].map(select =>
        `\n\t\t\tspidev0_${select}: spidev@${select} {\n\t\t\t\tcompatible = "spidev";\n\t\t\t\treg = `
        + `<${select}>;\n\t\t\t\tspi-max-frequency = <125000000>;\n\t\t\t};\n`)
        .join('')
    : ''
  return [
    `\t\t${id}: ${type}@${address.toString(16)} {`, `\t\t\tcompatible = "${full}";`, `\t\t\treg = <0x${address.toString(16)} 0x200>;`,
    '\t\t\tclocks = <&clk_core>;', '\t\t\tpinctrl-names = "default";', `\t\t\tpinctrl-0 = ${pins};`, ...more.map(line => `\t\t\t${line}`),
    '\t\t\tstatus = "disabled";', `${children}\t\t};`,
  ].join('\n')
}

const smallPort = () => `\t\tuart1: serial@7e215040 {
			compatible = "brcm,bcm2835-aux-uart";
			reg = <0x7e215040 0x40>;
			clocks = <&clk_core>;
			pinctrl-names = "default";
			pinctrl-0 = <&uart1_pins>;
			status = "disabled";
		};`

/** Parameters of the base tree, as far as the board has what they switch. */
function overrides(board: Board): string[] {
  const has = (id: string) => board.controllers.some(controller => controller.id === id)
  const rows: [string, string, string][] = [
    ['i2c1', 'i2c_arm', '"status"'], ['i2c1', 'i2c1', '"status"'], ['i2c1', 'i2c', '"status"'],
    ['i2c1', 'i2c_arm_baudrate', '"clock-frequency:0"'], ['i2c1', 'i2c_baudrate', '"clock-frequency:0"'],
    ['i2c1', 'i2c1_baudrate', '"clock-frequency:0"'],
    ['i2c0', 'i2c_vc', '"status"'], ['i2c0', 'i2c0', '"status"'], ['i2c0', 'i2c_vc_baudrate', '"clock-frequency:0"'],
    ['i2c0', 'i2c0_baudrate', '"clock-frequency:0"'],
    ['spi0', 'spi', '"status"'], ['uart0', 'uart0', '"status"'], ['uart0', 'uart0_console', '"status"'],
  ]
  return [
    ...rows.filter(([id]) => has(id)).map(([id, name, what]) => `\t\t${name} = <&${id}>, ${what};`),
    ...has('i2s') ? ['\t\ti2s = <&i2s>, "status";'] : [],
    '\t\taudio = <&audio>, "status";', '\t\tcooling_fan = <&fan>, "status";',
    ...[0, 1, 2, 3].flatMap(i => [
      `\t\tfan_temp${i} = <&fan>, "temp${i}:0";`, `\t\tfan_temp${i}_hyst = <&fan>, "hyst${i}:0";`,
      `\t\tfan_temp${i}_speed = <&fan>, "speed${i}:0";`,
    ]),
    '\t\trtc_bbat_vchg = <&rtc>, "charge-microvolt:0";',
  ]
}
