import { demoShow } from '@green-mantle/demo'
import { chromium, type Page } from '@playwright/test'
import { startApplication } from '../../scripts/application'
import { expect, expectAccessible, storeShow, test } from './fixtures'
import { chromiumArguments, chromiumPath } from './playwright.config'

/** A name that no browser takes for this machine, though it leads here. */
const name = 'studio.example'
const accessToken = 'moss-and-river-stones'

const pagesOf = (id: string): string[] => [
  ...['/', '/guide'],
  ...['canvases', 'sound', 'line', 'destinations', 'fit', 'encoders', 'rehearse', 'run-sheet'].map(
    (step) => `/shows/${id}/${step}`,
  ),
  ...[`/phone/${id}`, `/sheets/${id}`, `/run-sheets/${id}`, `/wrap-ups/${id}`, `/reports/${id}`],
]

/** What plain HTTP alone makes a browser say. */
const isExpected = (words: string): boolean =>
  /Cross-Origin-Opener-Policy header has been ignored|Origin-Agent-Cluster/.test(words)

test('every page opens over plain HTTP from another computer, and says what that takes away', async ({
  stack,
}) => {
  const { id } = await storeShow(stack.application.address, demoShow)
  const wide = await startApplication({
    ...{ databaseUrl: stack.databaseUrl, host: '0.0.0.0', port: 4770, accessToken, quiet: true },
    keyFile: `${stack.directory}/installation.key`,
    alsoNamed: name,
  })
  const browser = await chromium.launch({
    executablePath: chromiumPath,
    args: [...chromiumArguments, `--host-resolver-rules=MAP ${name} 127.0.0.1`],
  })
  try {
    const context = await browser.newContext()
    const page: Page = await context.newPage()
    const problems: string[] = []
    page.on('pageerror', ({ message }) => problems.push(message))
    page.on('console', (said) => {
      if (said.type() === 'error' && !isExpected(said.text()) && !/status of 401/.test(said.text()))
        problems.push(said.text())
    })
    const at = `http://${name}:${new URL(wide.address).port}`
    await page.goto(at)
    await page.getByLabel('Access token').fill(accessToken)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Green Mantle' })).toBeVisible()
    expect(await page.evaluate(() => isSecureContext)).toBe(false)
    for (const path of pagesOf(id)) {
      await page.goto(at + path)
      await expect(page.locator('h1').first()).toBeVisible()
      await expect(page.getByRole('heading', { name: '500' })).toHaveCount(0)
      expect([path, problems]).toEqual([path, []])
    }

    // An edit is kept, saved, and there in another tab.
    await page.goto(`${at}/shows/${id}/line`)
    const note = page.getByRole('note').filter({ hasText: 'plain HTTP' })
    await expect(note).toContainText('no camera, microphone, screen, encoder or clipboard')
    await expectAccessible(page)
    const headroom = page.getByRole('textbox', { name: 'Headroom' })
    await headroom.fill('41')
    await headroom.press('Enter')
    await expect(page.getByText(/^saved just now$/)).toBeVisible()
    const second = await context.newPage()
    await second.goto(`${at}/shows/${id}/line`)
    await expect(second.getByRole('textbox', { name: 'Headroom' })).toHaveValue('41')
    await note.getByRole('button', { name: 'Understood' }).click()
    await expect(note).toHaveCount(0)
    await second.reload()
    await expect(second.locator('h1').first()).toBeVisible()
    await expect(second.getByRole('note').filter({ hasText: 'plain HTTP' })).toHaveCount(0)
    expect(problems).toEqual([])
  } finally {
    await browser.close()
    await wide.stop()
  }
})
