import { demoShow } from '@green-mantle/demo'
import { expect, storeShow, test } from './fixtures'
import { scriptKilobytes } from './scriptWeight'

// Where nothing of the application was read yet.
test.use({ ownContext: true })

// Wanted are less than 160 and 300 kB; of these 5 and 3 % are kept to spare.

test('the first view of Home carries no more JavaScript than wanted', async ({ page }) => {
  expect(await scriptKilobytes(page, '/')).toBeLessThan(0.95 * 160)
})

test('the first view of Canvases carries no more JavaScript than wanted', async ({
  page,
  stack,
}) => {
  const { id } = await storeShow(stack.application.address, demoShow)
  expect(await scriptKilobytes(page, `/shows/${id}/canvases`)).toBeLessThan(0.97 * 300)
})
