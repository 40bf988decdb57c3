import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { strFromU8, unzipSync } from 'fflate'
import { readBlob } from '../../core/devicetree/blob/read'
import { writeBlob } from '../../core/devicetree/blob/write'
import { compileText } from '../../core/devicetree/source/compile'
import { choose, field, goTo, openDemo, openPlan, saved, WHOLE } from './helpers'

/** A file as somebody would bring it, with seven faults in it. */
const FAULTY = `# For more options and information see the documentation of the image
# Some settings may affect how the board starts

dtparam=audio=on
dtparam=i2c_amr=on
max_framebuffer=2
camera_auto_detect=1
dtoverlay=vc4-kms-v3d
dtparam=spi=on
hdmi_group=2
gpu_mem=64
gpu_mem=128
dtoverlay=w1-gpoi,gpiopin=22
dtoverlay=gpio-ir,gpio_pin=40
arm_freq=2900
`

const SHED = {
  format: 'voltaris-plan', version: 1, name: 'Potting shed', board: 'forty-usb-c', supply: { type: 'adapter-5v-3a' },
  parts: [
    { id: 'clock', type: 'clock-cell-i2c', name: 'clock' }, { id: 'scale', type: 'scale-two-wire', name: 'scale' },
    { id: 'gps', type: 'positioning-serial', name: 'gps' },
  ],
  assignments: Object.fromEntries(Object.entries({
    'clock.sda': 3, 'clock.scl': 5, 'scale.dout': 29, 'scale.sck': 31, 'gps.tx': 10, 'gps.rx': 8,
  })
    .map(([terminal, position]) => [terminal, { position, fixed: true }])),
}

/** A small board's tree, with the lines of its first bus. */
const TREE = `/dts-v1/;
/ {
  model = "Shed board"; compatible = "made-up,shed"; #address-cells = <1>; #size-cells = <1>;
  aliases { i2c1 = &i2c1; };
  gpio: gpio@1000 { compatible = "made-up,gpio"; reg = <0x1000 4>; gpio-controller; #gpio-cells = <2>;
    i2c1_pins: i2c1-pins { brcm,pins = <2 3>; brcm,function = <4>; }; };
  i2c1: i2c@2000 { compatible = "made-up,i2c"; reg = <0x2000 4>; #address-cells = <1>; #size-cells = <0>;
    pinctrl-0 = <&i2c1_pins>; pinctrl-names = "default"; status = "disabled"; };
};`

/** Opens a plan on the Boot stage. */
async function openBoot(page: Page, plan: object) {
  await openPlan(page, plan, 'boot')
  await expect(page.getByTestId('boot-text')).toBeVisible()
}

const give = (page: Page, ...files: [name: string, content: string | Uint8Array][]) =>
  field(page, 'boot-file')
    .setInputFiles(files.map(([name, content]) => ({ name, mimeType: 'application/octet-stream',
      buffer: Buffer.from(content) })))

const text = (page: Page) => page.getByTestId('boot-text')
  .evaluate(element => [...element.querySelectorAll('.cm-line')].map(line => line.textContent).join('\n'))

/** Mends everything that the list beside the file has a fix for, by the first fix each. */
async function mendAll(page: Page) {
  const fixes = page.getByTestId('line-fix')
  const troubles = page.locator('.trouble.caution, .trouble.stop')
  for (let step = 0; step < 30 && await troubles.count(); step++) {
    const before = await text(page)
    await troubles.first().getByTestId('line-fix').first().click()
    await expect.poll(() => text(page)).not.toBe(before)
  }
  await expect(troubles).toHaveCount(0)
  return fixes
}

test('a file with seven faults is mended by its fixes, rehearsed, taken away as a zip and read again',
  async ({ page }) => {
    await openBoot(page, SHED)
    await give(
      page, ['config.txt', FAULTY],
      ['cmdline.txt', 'console=serial0,115200 console=tty1 root=PARTUUID=0a-02 rootfstype=ext4 rootwait\n'],
    )
    await expect(page.getByTestId('notice'))
      .toContainText('config.txt: the boot file; cmdline.txt: the kernel command line')
    await expect(page.getByTestId('file-config.txt')).toContainText('7')
    for (const code of [
      'boot.param-unknown', 'boot.key-unknown', 'screen.without-effect', 'boot.contradicts', 'overlay.unknown',
      'boot.value-off',
      'clock.out-of-range',
    ]) {
      await expect(page.getByTestId(`finding-${code}`).first(), code).toBeVisible()
    }
    await mendAll(page)
    const mended = await text(page)
    for (const line of [
      'dtparam=i2c_arm=on', 'max_framebuffers=2', 'dtparam=spi=on', 'gpu_mem=128', 'dtoverlay=w1-gpio,gpiopin=22',
      'dtoverlay=gpio-ir,gpio_pin=21', 'arm_freq=1500',
    ]) {
      expect(mended.split('\n')).toContain(line)
    }

    // The console is on the command line: its tab has the fix.
    await page.getByTestId('file-cmdline.txt').click()
    await page.getByTestId('line-fix').filter({ hasText: 'Free the port' }).click()
    await expect(page.getByTestId('command-line')).not.toContainText('serial0')

    await page.getByTestId('boot-overlays').click()
    await field(page, 'make-scale').check()
    await expect(page.getByTestId('overlay-text')).toContainText('avia,hx711')

    await page.getByTestId('boot-rehearsal').click()
    await expect(page.getByTestId('rehearsal-verdict')).toContainText('stay dark')
    for (let step = 0; step < 4 && await page.getByTestId('rehearsal-fix').count(); step++) {
      await page.getByTestId('rehearsal-fix').first().click()
      await expect(page.getByTestId('rehearse')).toBeEnabled()
    }
    await expect(page.getByTestId('rehearsal-verdict')).toHaveText('3 of 3 come alive.')
    for (const path of ['/dev/i2c-1', '/dev/rtc0', '/dev/ttyS0', '/dev/spidev0.0', '/dev/lirc0']) {
      await expect(page.getByTestId('rehearsal-devices')).toContainText(path)
    }

    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('download-zip').click()])
    expect(download.suggestedFilename()).toBe('potting-shed-boot.zip')
    const zip = readFileSync(await download.path())
    const files = unzipSync(new Uint8Array(zip))
    expect(Object.keys(files)).toEqual([
      'config.txt', 'cmdline.txt', 'overlays/voltaris-scale.dts', 'overlays/voltaris-scale.dtbo', 'HOW-TO.txt',
    ])
    const config = strFromU8(files['config.txt']!)
    expect(config).toContain('dtoverlay=voltaris-scale\n')
    expect(config.startsWith('# For more options')).toBe(true)

    // Into a fresh copy of the plan: everything is known again.
    await openPlanAgain(page)
    await give(page, ['potting-shed-boot.zip', zip])
    await expect(page.getByTestId('notice')).toContainText('voltaris-scale: made for scale')
    await page.getByTestId('boot-files').click()
    await expect(page.getByText('The file has all that the plan needs.')).toBeVisible()
    expect(`${await text(page)}`).toBe(config)
    await page.getByTestId('boot-rehearsal').click()
    await expect(page.getByTestId('rehearsal-verdict')).toHaveText('3 of 3 come alive.')
  })

async function openPlanAgain(page: Page) {
  await page.goto('/')
  await field(page, 'import-file')
    .setInputFiles({
      name: 'plan.json', mimeType: 'application/json',
      buffer: Buffer.from(JSON.stringify({ ...SHED, name: 'Shed, again' })),
    })
  await page.getByRole('link', { name: 'Shed, again' }).click()
  await goTo(page, 'boot')
}

test('owned lines: written, changed by hand and kept, switched off as comments, and the file before put back',
  async ({ page }) => {
    await openBoot(page, { ...SHED, boot: { text: '# mine\ngpu_mem=64\n' } })
    await page.getByTestId('write-boot').click()
    await expect(page.getByTestId('boot-text')).toContainText('dtoverlay=i2c-rtc,ds3231')
    await expect(page.locator('.owner-dot.written')).toHaveCount(3)
    const written = await text(page)

    await page.getByTestId('boot-text').fill(written.replace('ds3231', 'ds1307'))
    await expect(page.locator('.owner-dot.by-hand')).toHaveCount(1)
    await expect(page.getByTestId('finding-boot.by-hand')).toContainText('Your change is kept')
    await page.getByTestId('finding-boot.by-hand').getByTestId('fix').click()
    await expect.poll(() => text(page)).toBe(written)

    await page.getByTestId('side-owners').click()
    await field(page, 'when-off-comment').check()
    await field(page, 'lines-of-clock').uncheck()
    await page.getByTestId('write-boot').click()
    await expect(page.getByTestId('boot-text')).toContainText('#dtoverlay=i2c-rtc,ds3231')
    await expect(page.locator('.owner-dot.off')).toHaveCount(2)
    await field(page, 'lines-of-clock').check()
    await page.getByTestId('write-boot').click()
    await expect.poll(() => text(page)).toBe(written)

    await page.getByTestId('side-earlier').click()
    await page.getByTestId('put-back').last().click()
    await expect.poll(() => text(page)).toBe('# mine\ngpu_mem=64\n')
    await page.getByTestId('boot-text').click()
    await page.keyboard.press('Control+z')
    await expect.poll(() => text(page)).toBe(written)
    await saved(page)
  })

test('files that are dropped together sort themselves, and what is none of them is told', WHOLE, async ({ page }) => {
  const source = '/dts-v1/;\n/plugin/;\n&i2c1 { status = "okay"; rtc@68 { compatible = "maxim,ds3231"; reg = <0x68>; }; };\n'
  await openBoot(page, SHED)
  await give(
    page, ['config.txt', 'include extra.txt\ndtoverlay=my-clock\n'], ['cmdline.txt', 'root=/dev/x rootwait'],
    ['my-clock.dts', source],
    ['blob.dtbo', writeBlob(compileText(source, { symbols: true }))], ['extra.txt', 'gpu_mem=64\n'],
    ['broken.dts', '/dts-v1/;\n/plugin/;\n&i2c1 {'], ['photo.png', new Uint8Array([0x89, 0x50, 0, 1])],
  )
  await expect(page.getByTestId('notice')).toContainText('my-clock: an overlay of yours; blob: an overlay of yours; '
    + 'extra.txt: an included file')
  await expect(page.getByTestId('notice')).toContainText('broken.dts: broken.dts:3')
  await expect(page.getByTestId('notice')).toContainText('photo.png is neither')
  for (const name of ['config.txt', 'cmdline.txt', 'extra.txt', 'my-clock.dts']) {
    await expect(page.getByTestId(`file-${name}`)).toBeVisible()
  }
  await expect(page.getByText('blob.dtbo')).toBeVisible()
  await page.getByTestId('file-my-clock.dts').click()
  await expect(page.getByTestId('boot-extra')).toContainText('maxim,ds3231')
  await page.getByTestId('boot-rehearsal').click()
  await expect(page.getByTestId('rehearsal-steps')).toContainText('Your own file.')
  await expect(page.getByTestId('rehearsal-devices')).toContainText('/dev/rtc0')
})

test('the editor explains on hover, completes what is begun, and mends in place', WHOLE, async ({ page }) => {
  await openBoot(page, { ...SHED, boot: { text: 'dtoverlay=w1-gpio,gpiopin=22\nmax_framebuffer=2\n' } })
  await page.locator('.cm-line').first().getByText('gpiopin').hover()
  await expect(page.locator('.boot-words')).toContainText('gpiopin: line of the bus; 0 to 27')
  await page.mouse.move(5, 400)
  await page.locator('.cm-lintRange-warning').first().hover()
  await page.locator('.cm-diagnosticAction').filter({ hasText: 'Write max_framebuffers' }).click()
  await expect.poll(() => text(page)).toContain('max_framebuffers=2')
  await page.getByTestId('boot-text').click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type('dtoverlay=gpio-fa')
  await expect(page.locator('.cm-tooltip-autocomplete')).toContainText('gpio-fan')
  await page.locator('.cm-tooltip-autocomplete li').filter({ hasText: 'switched by temperature' }).click()
  await expect.poll(() => text(page)).toMatch(/dtoverlay=gpio-fan$/)
})

test('a screen gets its lines, its timing and the matrix of its touch', async ({ page }) => {
  await openDemo(page, 'Tool library kiosk', 'boot')
  await page.getByTestId('boot-screen').click()
  await field(page, 'screen-width').fill('800')
  await field(page, 'screen-height').fill('480')
  await choose(page, 'screen-rotation', '90°')
  await expect(page.getByTestId('screen-clock')).toContainText('29.50 MHz')
  await expect(page.getByTestId('screen-touch')).toContainText('0 -1 1 1 0 0')
  await field(page, 'screen-width').fill('2')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('screen-width')).toContainText('A number from 8 to 16384')
  await field(page, 'screen-width').fill('800')
  await page.getByTestId('write-screen').click()
  await page.getByTestId('boot-files').click()
  await page.getByTestId('file-cmdline.txt').click()
  await expect(page.getByTestId('command-line')).toContainText('video=HDMI-A-1:800x480M@60,rotate=90')
})

test('the library finds an overlay by what it is for and writes it', async ({ page }) => {
  await openBoot(page, SHED)
  await page.getByTestId('boot-library').click()
  await field(page, 'library-search').fill('vehicle can1')
  await expect(page.getByTestId('library-list').locator('.v-list-item')).toHaveCount(1)
  await page.getByTestId('library-write').click()
  await page.getByTestId('boot-files').click()
  await expect.poll(() => text(page)).toBe('dtoverlay=mcp2515-can1\n')
  await page.getByTestId('boot-library').click()
  await field(page, 'library-search').fill('nothing of the kind')
  await expect(page.getByTestId('library-list')).toContainText('None of the')
})

test('a board is read from its own tree and planned on', WHOLE, async ({ page }) => {
  await openBoot(page, SHED)
  await page.getByTestId('boot-tree').click()
  await field(page, 'tree-file')
    .setInputFiles({ name: 'shed.dtb', mimeType: 'application/octet-stream', buffer: Buffer.from('no tree at all') })
  await expect(page.getByRole('alert')).toContainText('shed.dtb')
  const blob = writeBlob(compileText(TREE, { symbols: true }))
  await field(page, 'tree-file')
    .setInputFiles({ name: 'shed.dtb', mimeType: 'application/octet-stream', buffer: Buffer.from(blob) })
  await expect(page.getByTestId('tree-summary')).toContainText('labels that overlays can name')
  await field(page, 'tree-positions')
    .fill('1 3V3\n2 5V\n3 gpio2\n5 gpio3\n6 GND\n8 gpio14\n10 gpio15\n29 gpio5\n31 gpio6\n')
  await expect(page.getByTestId('tree-made')).toContainText('9 positions')
  await page.getByTestId('tree-keep').click()
  await expect(page.getByTestId('notice')).toContainText('is the board of the plan now')
  await page.getByTestId('boot-rehearsal').click()
  await expect(page.getByTestId('rehearsal-steps')).toContainText('Base tree')
  await goTo(page, 'wiring')
  await expect(page.getByTestId('header-rail')).toBeVisible()
})

test('a rehearsal can be stopped', WHOLE, async ({ page }) => {
  await openBoot(page, SHED)
  let release = () => {}
  const held = new Promise<void>(resolve => release = resolve)
  await page.route('**/heavy.worker*', async (route) => {
    await held
    await route.continue().catch(() => {})
  })
  await page.getByTestId('boot-rehearsal').click()
  await page.getByTestId('stop-rehearsal').click()
  await expect(page.getByTestId('notice')).toContainText('Stopped. Nothing was changed.')
  release()
  await page.unroute('**/heavy.worker*')
  await page.getByTestId('rehearse').click()
  await expect(page.getByTestId('rehearsal-verdict')).toContainText('come alive')
})

test('an overlay made for a part is handed over as a blob that reads back', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'boot')
  await page.getByTestId('boot-overlays').click()
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('overlay-blob').click()])
  expect(download.suggestedFilename()).toBe('voltaris-scale.dtbo')
  expect(readBlob(new Uint8Array(readFileSync(await download.path()))).root.children.length).toBeGreaterThan(1)
})

test('a menu file of another board sorts itself, is mended, and gets the overlay made for a part on its line', WHOLE,
  async ({ page }) => {
    await openBoot(page, SHED)
    await page.getByTestId('boot-tree').click()
    await field(page, 'tree-file')
      .setInputFiles({
        name: 'shed.dtb', mimeType: 'application/octet-stream',
        buffer: Buffer.from(writeBlob(compileText(TREE, { symbols: true }))),
      })
    await field(page, 'tree-positions')
      .fill('1 3V3\n2 5V\n3 gpio2\n5 gpio3\n6 GND\n9 GND\n8 gpio14\n10 gpio15\n29 gpio5\n31 gpio6\n')
    await page.getByTestId('tree-keep').click()
    await page.getByTestId('boot-files').click()
    await give(
      page,
      [
        'extlinux.conf',
        'default shde\nlabel shed\n    linux /vmlinuz\n    fdtoverlays /overlays/mine.dtbo,/overlays/more.dtbo\n    append root=/dev/x\n',
      ],
    )
    await expect(page.getByTestId('boot-dialect')).toHaveText('extlinux')
    await expect(page.getByTestId('finding-menu.no-such-entry')).toContainText('There is no entry "shde"')
    await expect(page.getByTestId('finding-menu.commas')).toBeVisible()
    await mendAll(page)
    expect(await text(page)).toContain('default shed\n')
    await page.getByTestId('boot-overlays').click()
    await field(page, 'make-clock').check()
    await page.getByTestId('boot-files').click()
    await page.getByTestId('write-boot').click()
    await expect.poll(() => text(page)).toContain('fdtoverlays /overlays/mine.dtbo /overlays/more.dtbo')
    expect(await text(page)).toContain('/overlays/voltaris-clock.dtbo')
    await page.getByTestId('boot-rehearsal').click()
    await expect(page.getByTestId('rehearsal-steps')).toContainText('Shed board')
    await expect(page.getByTestId('rehearsal-steps')).toContainText('Overlay voltaris-clock')
    await expect(page.getByTestId('rehearsal-steps'))
      .toContainText('mine.dtbo is neither in the library nor among your files')
    await expect(page.getByTestId('rehearsal-devices')).toContainText('/dev/rtc0')
  })

test('files are dropped onto the stage', WHOLE, async ({ page }) => {
  await openBoot(page, SHED)
  const dropped = await page.evaluateHandle(() => {
    const transfer = new DataTransfer()
    transfer.items.add(new File(['enable_uart=1\r\n'], 'config.txt', { type: 'text/plain' }))
    transfer.items.add(new File(['root=/dev/x rootwait'], 'cmdline.txt', { type: 'text/plain' }))
    return transfer
  })
  await page.locator('.boot').dispatchEvent('dragover', { dataTransfer: dropped })
  await expect(page.getByText('Let go: the files sort themselves.')).toBeVisible()
  await page.locator('.boot').dispatchEvent('drop', { dataTransfer: dropped })
  await expect(page.getByTestId('notice'))
    .toContainText('config.txt: the boot file; cmdline.txt: the kernel command line')
  await expect(page.getByTestId('boot-text')).toContainText('enable_uart=1')
  await page.getByTestId('file-cmdline.txt').click()
  await expect(page.getByTestId('command-line')).toContainText('rootwait')
  // Typing keeps the line endings that the file came with.
  await page.getByTestId('file-config.txt').click()
  await page.getByTestId('boot-text').click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type('gpu_mem=64')
  await page.keyboard.press('Enter')
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('download-boot').click()])
  expect(readFileSync(await download.path(), 'utf8').startsWith('enable_uart=1\r\ngpu_mem=64\r\n')).toBe(true)
})

test('a long file is read beside the page: findings come, and nothing typed is lost', WHOLE, async ({ page }) => {
  await openBoot(page, SHED)
  const lines = 'dtoverlay=w1-gpio,gpiopin=22\n# a note of mine\nhdmi_gruop=1\n'
  const long = lines.repeat(4000)
  await give(page, ['config.txt', long])
  await expect(page.getByTestId('findings').getByRole('button', { name: 'Write hdmi_group' }).first()).toBeVisible()
  // Of hundreds the drawer draws forty, and more when asked.
  await page.getByTestId('more-of-group').first().click()
  await expect(page.getByTestId('more-of-group').first()).toContainText('Show 40 more of')
  await expect(page.getByTestId('explained-window')).toContainText('of 12000')
  await page.getByTestId('boot-text').click()
  await page.keyboard.press('ControlOrMeta+End')
  await page.keyboard.type('arm_freq=1000')
  // Gone to another stage in the middle of it: the letters are there when one comes back.
  await goTo(page, 'wiring')
  await goTo(page, 'boot')
  await page.getByTestId('boot-text').click()
  await page.keyboard.press('ControlOrMeta+End')
  await expect.poll(() => text(page)).toContain('arm_freq=1000')
  await expect(page.getByTestId('explained')).toContainText('arm_freq=1000')
  await saved(page)
})
