/** What else the board must be told: said in fields, made into files, kept beside what lies on the board. */
import { expect, test } from '@playwright/test'
import { addPart, choose, field, goTo, newProject, openDemo, saved, WHOLE } from './helpers'

test('files follow from what is said, with what each line does, and what cannot be is refused in its field',
  async ({ page }) => {
    await newProject(page, 'Box')
    await goTo(page, 'boot')
    await page.getByTestId('boot-host').click()
    await expect(page.getByTestId('host-none')).toBeVisible()

    await field(page, 'host-name').fill('no blanks here')
    await field(page, 'host-name').blur()
    await expect(page.getByTestId('host-name')).toContainText('does not fit: letters, digits and dashes')
    await field(page, 'host-name').fill('box')
    await field(page, 'host-name').blur()
    await expect(page.getByTestId('host-text')).toContainText('hostname: box')
    await expect(page.getByTestId('host-text')).toContainText('The name on the network.')

    // A router elsewhere is a finding whose way out is pressed.
    await page.getByText('Network: radio, fixed address').click()
    await field(page, 'host-address').fill('192.168.7.20/24')
    await field(page, 'host-address').blur()
    await field(page, 'host-gateway').fill('10.0.0.1')
    await field(page, 'host-gateway').blur()
    await page.getByRole('button', { name: 'Write 192.168.7.1' }).click()
    await expect(field(page, 'host-gateway')).toHaveValue('192.168.7.1')

    await field(page, 'host-user').fill('keeper')
    await field(page, 'host-user').blur()
    await page.getByText('Programs that start by themselves').click()
    await page.getByTestId('run-add').click()
    await page.getByTestId('host-files').getByText('program-1 by itself').click()
    await expect(page.getByTestId('host-text')).toContainText('ExecStart=/usr/bin/python3 /home/keeper/main.py')
    await expect(page.getByTestId('host-text')).toContainText('User=keeper')
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('host-zip').click()])
    expect(download.suggestedFilename()).toBe('box-files.zip')
  })

test('what somebody changed on the board stays, and what was not touched follows the plan', WHOLE, async ({ page }) => {
  await openDemo(page, 'Tool library kiosk')
  await goTo(page, 'boot')
  await page.getByTestId('boot-host').click()
  await page.getByTestId('host-files').getByText('lending-desk by itself').click()
  await page.getByTestId('host-written').click()
  await expect(page.getByText('It lies there as it should.')).toBeVisible()

  // A line of one's own comes along when the plan changes.
  const text = (await page.getByTestId('host-text').locator('code').allInnerTexts()).map(line => line.trim()).join('\n')
  await page.getByTestId('host-paste').click()
  await field(page, 'host-pasted').fill(`${text}\n# mine\n`)
  await page.getByTestId('host-take').click()
  await field(page, 'run-command').fill('/usr/bin/python3 /home/librarian/desk/other.py')
  await field(page, 'run-command').blur()
  await expect(page.getByTestId('host-text')).toContainText('# mine')
  await expect(page.getByTestId('host-text')).toContainText('desk/other.py')

  // One that the plan would change too stays, and is told.
  await page.getByTestId('host-paste').click()
  await field(page, 'host-pasted').fill('[Service]\nExecStart=/bin/true\n')
  await page.getByTestId('host-take').click()
  await expect(page.getByTestId('host-collides')).toBeVisible()
  await saved(page)
  await page.reload()
  await page.getByTestId('boot-host').click()
  await page.getByTestId('host-files').getByText('lending-desk by itself').click()
  await page.getByTestId('host-plans').click()
  await expect(page.getByTestId('host-text')).toContainText('desk/other.py')
})

test('keys of a matrix are said as they lie', WHOLE, async ({ page }) => {
  await newProject(page, 'Pad')
  await goTo(page, 'parts')
  await addPart(page, 'keypad-matrix')
  await goTo(page, 'boot')
  await page.getByTestId('boot-host').click()
  await page.getByText('Keys of Keys in rows and columns').click()
  await page.getByRole('button', { name: /^row 1, column 2/ }).click()
  await choose(page, 'key-code', 'a')
  await expect(page.getByRole('button', { name: 'row 1, column 2: A' })).toBeVisible()
  await field(page, 'key-types').fill('é')
  await field(page, 'key-types').blur()
  await expect(page.getByTestId('host-text')).toContainText('U00E9, U00C9')
})

test('names of USB things come from what was pasted', async ({ page }) => {
  await openDemo(page, 'Hive on the south slope', 'boot')
  await page.getByTestId('boot-host').click()
  await page.getByText('Names that stay').click()
  await field(page, 'usb-paste').fill('nothing of the kind')
  await page.getByTestId('usb-take').click()
  await expect(page.getByTestId('usb-told')).toContainText('No USB thing is told in this text')
  await field(page, 'usb-paste').fill('P: /devices/usb1/1-1/1-1.2/1-1.2:1.0/tty/ttyUSB0\nE: DEVNAME=/dev/ttyUSB0\n'
    + 'E: ID_VENDOR_ID=1a2b\nE: ID_MODEL_ID=7523\n')
  await page.getByTestId('usb-take').click()
  await expect(page.getByTestId('usb-told')).toContainText('told by the socket')
  await expect(page.getByLabel('Socket, such as 1-1.2')).toHaveValue('1-1.2')
})
