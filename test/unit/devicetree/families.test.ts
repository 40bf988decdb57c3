/**
 * Pins of boards of many chip families by the names and lines that the kernel's own headers, trees and
 * drivers give them.
 */
import { describe, expect, it } from 'vitest'
import { PADS } from '../../../core/devicetree/board/pads'
import { profileOf } from '../../../core/devicetree/board/profile'
import { compileText } from '../../../core/devicetree/source/compile'

const chip = (label: string, more = '',
  at = '#gpio-cells = <2>') => `${label}: ${label} { gpio-controller; ${at}; ${more} };`

/**
 * A tree with one bus whose pins are told by `group`; `soc` holds controllers and chips, `around` stands in the
 * controller of pins.
 */
function busOf({ compatible = 'made-up,board', controller, group, soc = '', around = '', aliases = '', cells = '' }: {
  compatible?: string
  controller: string
  group: string
  soc?: string
  around?: string
  aliases?: string
  cells?: string
}) {
  const profile = profileOf(compileText(`/dts-v1/;
/ {
  compatible = "${compatible}";
  aliases { ${aliases} };
  pins: pinctrl@0 { compatible = "${controller}"; reg = <0>; ${cells} ${around} bus_pins: bus-pins { ${group} }; };
  ${soc}
  i2c@1 { compatible = "made-up,i2c"; reg = <1>; pinctrl-names = "default"; pinctrl-0 = <&bus_pins>; };
};`, { symbols: true }), { pads: PADS })
  return profile.controllers.find(entry => entry.kind === 'i2c')!.groups.flatMap(entry => entry.pins)
}

// published: Linux 6.1, the file named with each; lines are counted 32 to a chip, as boards of the family do
const FAMILIES: [family: string, given: Parameters<typeof busOf>[0], pins: [name: string, line: number | null][]][] = [
  [
    'banks by letter, one chip (arm/sun8i-h3.dtsi)',
    {
      controller: 'allwinner,sun8i-h3-pinctrl', cells: 'gpio-controller; #gpio-cells = <3>;',
      group: 'pins = "PA11", "PA12"; function = "i2c0";',
    },
    [['PA11', 11], ['PA12', 12]],
  ],
  [
    'a second chip of banks from L on (arm/sun8i-h3.dtsi)',
    {
      controller: 'allwinner,sun8i-h3-r-pinctrl', cells: 'gpio-controller; #gpio-cells = <3>;',
      group: 'pins = "PL0", "PL1"; function = '
        + '"s_i2c";',
      soc: 'pio: pinctrl@9 { compatible = "allwinner,sun8i-h3-pinctrl"; gpio-controller; #gpio-cells = <3>; };',
    },
    [['PL0', 352], ['PL1', 353]],
  ],
  [
    'banks of four letters (arm64/rockchip/rk3328.dtsi: I²C 0 on GPIO2_D0 and D1)',
    {
      controller: 'rockchip,rk3328-pinctrl', group: 'rockchip,pins = <2 24 1 &none>, <2 25 1 &none>;',
      around: `none: none { }; ${[0, 1, 2, 3].map(n => chip(`gpio${n}`)).join(' ')}`,
    },
    [['GPIO2_D0', 88], ['GPIO2_D1', 89]],
  ],
  [
    'pins by number (bindings/pinctrl/brcm,bcm2835-gpio.txt)',
    { controller: 'brcm,bcm2835-gpio', cells: 'gpio-controller; #gpio-cells = <2>;',
      group: 'brcm,pins = <2 3>; brcm,function = <4>;' },
    [['gpio2', 2], ['gpio3', 3]],
  ],
  [
    'pins by name (arm64/qcom/msm8916-pins.dtsi)',
    {
      controller: 'qcom,msm8916-pinctrl', cells: 'gpio-controller; #gpio-cells = <2>;',
      group: 'pins = "gpio2", "gpio3"; function = "blsp_i2c1";',
    },
    [['gpio2', 2], ['gpio3', 3]],
  ],
  [
    'pads by register (arm64/freescale/imx8mm-pinfunc.h: I2C1_SCL is GPIO5_IO14)',
    {
      controller: 'fsl,imx8mm-iomuxc',
      group: 'fsl,pins = <0x214 0x47c 0 0 0 0x400001c3>, <0x218 0x480 0 0 0 0x400001c3>;',
      soc: [1, 2, 3, 4, 5].map(n => chip(`gpio${n}`)).join(' '),
      aliases: [1, 2, 3, 4, 5].map(n => `gpio${n - 1} = &gpio${n};`).join(' '),
    },
    [['I2C1_SCL', 142], ['I2C1_SDA', 143]],
  ],
  [
    'pads by register of an older family (arm/imx6q-pinfunc.h: EIM_D21 is GPIO3_IO21)',
    {
      controller: 'fsl,imx6q-iomuxc',
      group: 'fsl,pins = <0xa4 0x3b8 0x898 6 0 0x4001b8b1>, <0xc4 0x3d8 0x89c 6 0 0x4001b8b1>;',
      soc: [1, 2, 3].map(n => chip(`gpio${n}`)).join(' '),
      aliases: [1, 2, 3].map(n => `gpio${n - 1} = &gpio${n};`).join(' '),
    },
    [['EIM_D21', 85], ['EIM_D28', 92]],
  ],
  [
    'pads of three cells, lines by ranges (dt-bindings/pinctrl/am33xx.h, am33xx-l4.dtsi: I2C0_SDA is line 5 of chip 3)',
    {
      compatible: 'ti,am33xx', controller: 'pinctrl-single',
      cells: '#pinctrl-cells = <2>; pinctrl-single,register-width = <32>;',
      group: 'pinctrl-single,pins = <0x188 0x30 0>, <0x18c 0x30 0>;',
      soc: 'gpio0: gpio0 { gpio-controller; #gpio-cells = <2>; }; gpio3: gpio3 { gpio-controller; #gpio-cells = <2>; '
        + 'gpio-ranges = <&pins 5 98 2>; };',
    },
    [['I2C0_SDA', 101], ['I2C0_SCL', 102]],
  ],
  [
    'registers of two bytes with nothing that names them (bindings/pinctrl/pinctrl-single.yaml)',
    {
      controller: 'pinctrl-single', cells: '#pinctrl-cells = <1>; pinctrl-single,register-width = <16>;',
      group: 'pinctrl-single,pins = <0xea 0x100>;',
    },
    [['pad-0xea', null]],
  ],
  [
    'ports of sixteen (dt-bindings/pinctrl/stm32-pinfunc.h: PD12 and PF15)',
    {
      controller: 'st,stm32mp157-pinctrl', group: 'pins { pinmux = <0x3c05>, <0x5f05>; };',
      around: ['D', 'F'].map(letter => chip(`gpio${letter.toLowerCase()}`, `st,bank-name = "GPIO${letter}";`))
        .join(' '),
    },
    [['PD12', 108], ['PF15', 175]],
  ],
  [
    'numbers above the setting (dt-bindings/pinctrl/mt65xx.h)',
    {
      controller: 'mediatek,mt8183-pinctrl', cells: 'gpio-controller; #gpio-cells = <2>;',
      group: 'pins { pinmux = <0x7101>, <0x7201>; };',
    },
    [['GPIO113', 113], ['GPIO114', 114]],
  ],
  [
    'numbers below the setting (arm/sama5d2-pinfunc.h: PD21 as TWD0)',
    { controller: 'atmel,sama5d2-pinctrl', cells: 'gpio-controller; #gpio-cells = <2>;',
      group: 'pinmux = <0x420075>, <0x420076>;' },
    [['PD21', 117], ['PD22', 118]],
  ],
  [
    'ports of eight (dt-bindings/pinctrl/rzg2l-pinctrl.h)',
    { controller: 'renesas,r9a07g044-pinctrl', cells: 'gpio-controller; #gpio-cells = <2>;',
      group: 'pinmux = <0x40180>;' },
    [['P48_0', 384]],
  ],
  [
    'a chip for each bank of letters (arm/exynos5420-pinctrl.dtsi): a line of its chip, counted in the order '
    + 'of the tree',
    {
      controller: 'samsung,exynos5420-pinctrl', group: 'samsung,pins = "gpb3-0", "gpb3-1"; samsung,pin-function = <2>;',
      around: [chip('gpa0'), chip('gpb3')].join(' '),
    },
    [['gpb3-0', 32], ['gpb3-1', 33]],
  ],
  [
    'names that end in their port (dt-bindings/gpio/tegra-gpio.h: port J line 1)',
    {
      controller: 'made-up,ports',
      group: 'made-up,pins = "gen1_i2c_scl_pj1", "gen1_i2c_sda_pj0"; made-up,function = "i2c1";',
      soc: chip('gpio'),
    },
    [['gen1_i2c_scl_pj1', 73], ['gen1_i2c_sda_pj0', 72]],
  ],
  [
    'groups that the driver knows (pinctrl-meson-g12a.c, dt-bindings/gpio/meson-g12a-gpio.h)',
    {
      controller: 'amlogic,meson-g12a-periphs-pinctrl',
      group: 'mux { groups = "i2c3_sda_a", "i2c3_sck_a"; function = "i2c3"; };',
      around: chip('gpio'),
    },
    [['GPIOA_14', 63], ['GPIOA_15', 64]],
  ],
  [
    'pins of several functions (arm/armada-388-clearfog.dts)',
    {
      controller: 'marvell,mv88f6828-pinctrl', group: 'marvell,pins = "mpp2", "mpp35"; marvell,function = "i2c0";',
      soc: [0, 1].map(
        n => chip(`gpio${n}`),
      ).join(' '),
    },
    [['mpp2', 2], ['mpp35', 35]],
  ],
  [
    'groups that nothing here knows: named as the tree names them, without a line (bindings/pinctrl/renesas,pfc.yaml)',
    { controller: 'renesas,pfc-r8a7795', group: 'groups = "i2c2_a"; function = "i2c2";',
      soc: [0, 1].map(n => chip(`gpio${n}`)).join(' ') },
    [['i2c2_a', null]],
  ],
]

describe('a board of a family', () => {
  it.each(FAMILIES)('%s', (_, given, pins) => {
    const read = busOf(given)
    expect(read.map(pin => [pin.name, pin.line])).toEqual(pins)
    for (const pin of read) if (pin.line === null) expect(pin.isUnnamed, pin.name).toBe(true)
  })

  it('whose names are not at hand has its pads by register, and says that they are no names', () => {
    const bare = profileOf(
      compileText('/dts-v1/; / { pins: p@0 { compatible = "fsl,imx8mm-iomuxc"; g { fsl,pins = <0x214 0 0 0 0 0>; '
        + '}; }; };'),
    )
    expect(bare.groups[0]!.pins).toMatchObject([{ name: 'pad-0x214', isUnnamed: true, line: null }])
  })
})
