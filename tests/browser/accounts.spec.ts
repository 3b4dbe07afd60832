import type { Page } from '@playwright/test'
import { tabTo } from './canvasHands'
import { expect, expectAccessible, step, test, untilSaved } from './fixtures'

test.use({ opensOn: 'destinations' })

async function openCommonhall(page: Page): Promise<void> {
  await step(page, 'Destinations').click()
  await page
    .locator('[data-destination=Commonhall]')
    .getByRole('button', { name: /^Commonhall/ })
    .click()
}
async function linking(page: Page): Promise<Page> {
  const popup = page.waitForEvent('popup')
  await page.getByRole('button', { name: 'Link an account …' }).click()
  return popup
}
/** The service's own page, where access is ended or taken back. */
async function atTheService(page: Page, button: string, account = ''): Promise<void> {
  const service = await page.context().newPage()
  await service.goto('/stand-ins/accounts')
  // A page that is closed before its answer is there can stay, before the one that is tested.
  const answered = service.waitForEvent('framenavigated')
  await service
    .locator('form')
    .filter({ hasText: account })
    .getByRole('button', { name: button })
    .first()
    .click()
  await answered
  await service.waitForLoadState()
  await service.close()
  await page.bringToFront()
}

test('an account is refused, linked, run out, revoked and unlinked', async ({
  page,
  demo,
  stack,
  consoleProblems,
}) => {
  await openCommonhall(page)
  const refused = await linking(page)
  await expect(refused.getByRole('heading', { name: 'Link an account' })).toBeVisible()
  await expectAccessible(refused)
  await refused.getByRole('button', { name: 'Refuse' }).click()
  await expect(page.getByRole('alert')).toContainText('It was refused there')

  const allowed = await linking(page)
  await allowed.getByRole('radio', { name: 'Fernhollow Glasshouse' }).check()
  await allowed.getByRole('button', { name: 'Allow' }).click()
  const linked = page.getByTestId('linked-account')
  await expect(linked).toContainText('Linked to Fernhollow Glasshouse, Glasshouse evenings')
  await page
    .getByRole('combobox', { name: 'Scheduled event' })
    .selectOption('Night Bloom, 12 December 21:00')
  await untilSaved(page)
  expect((await demo.read()).destinations[2]?.account).toMatchObject({
    accountId: 'fernhollow',
    pageId: 'glasshouse',
    eventId: 'bloom',
  })
  await expectAccessible(page)

  // An access token that has run out is renewed without a word.
  await atTheService(page, 'End the access token')
  // What came with the account may have been one edit more; a page with an unsaved one stays.
  await untilSaved(page)
  await page.reload()
  await openCommonhall(page)
  await expect(page.getByRole('combobox', { name: 'Page' })).toBeVisible()

  await atTheService(page, 'Revoke')
  // A page with something unsaved asks before it is left.
  await untilSaved(page)
  await page.reload()
  await openCommonhall(page)
  await expect(page.getByRole('alert')).toContainText('This account is not linked any more')
  // The browser tells of the request that was refused.
  expect(consoleProblems.splice(0)).toEqual([expect.stringContaining('409')])
  await expect(linked).toContainText('Night Bloom')

  const again = await linking(page)
  await tabTo(again, 'Fernhollow Glasshouse')
  await again.keyboard.press('ArrowDown')
  await again.keyboard.press('Tab')
  await again.keyboard.press('Enter')
  await expect(linked).toContainText('Linked to Second host, Own page')
  await page.getByRole('button', { name: 'Unlink it' }).click()
  await expect(linked).toBeHidden()
  const service = await page.context().newPage()
  await service.goto('/stand-ins/accounts')
  await expect(service.getByText('Nobody.')).toBeVisible()
  await untilSaved(page)
  expect((await demo.read()).destinations[2]?.account).toBeNull()
  expect(stack.output.join('')).not.toMatch(/code=|access_token|refresh/)
})

test('before the night an account that may not go live, or is on a phone too, is said', async ({
  page,
  demo,
}) => {
  expect(demo.id).not.toBe('')
  await openCommonhall(page)
  const consent = await linking(page)
  await consent.getByRole('radio', { name: 'Second host' }).check()
  await consent.getByRole('button', { name: 'Allow' }).click()
  await expect(page.getByTestId('linked-account')).toContainText('Linked to Second host')
  await untilSaved(page)
  await atTheService(page, 'Forbid going live', 'Second host')
  await atTheService(page, 'Log in on a phone', 'Second host')
  await step(page, 'Run sheet').click()
  const checks = page.getByRole('region', { name: 'Checks' })
  await expect(checks).toContainText('Second host may not go live, says its service')
  await expect(checks).toContainText('Second host is logged in on a phone too')
  await expectAccessible(page)
  await atTheService(page, 'Allow going live', 'Second host')
  await page.getByRole('button', { name: 'Look again' }).click()
  await expect(checks).not.toContainText('may not go live')
  await atTheService(page, 'Revoke', 'Second host')
  await page.getByRole('button', { name: 'Look again' }).click()
  await expect(checks).toContainText('Commonhall is linked to Second host, which has run out')
})

test('an answer that was not asked for links nothing', async ({ page, demo }) => {
  const linked = async () => (await page.request.get('/api/accounts')).json()
  const before = await linked()
  const answer = await page.request.get('/accounts/callback?code=abc&state=def', {
    maxRedirects: 0,
  })
  expect(answer.headers().location).toBe('/linked?outcome=failed')
  const other = await page.request.get('/stand-ins/accounts/authorize?response_type=code')
  expect(other.status()).toBe(400)
  const token = await page.request.post('/stand-ins/accounts/token', {
    form: {
      grant_type: 'authorization_code',
      code: 'made-up',
      code_verifier: 'x',
      redirect_uri: 'http://elsewhere.example',
    },
  })
  expect(token.status()).toBe(400)
  expect(await linked()).toEqual(before)
  expect((await demo.read()).destinations[2]?.account).toBeNull()
})
