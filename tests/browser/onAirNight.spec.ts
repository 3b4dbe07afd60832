import { coloured, framesOf, middleOf } from './colouredShow'
import { expect, expectAccessible, storeShow, test } from './fixtures'

test('a night is carried out from the on-air window: what is due, marks, and standing by', async ({
  page,
  stack,
}) => {
  const { address } = stack.application
  const { id } = await storeShow(address, coloured)
  await page.goto(`/shows/${id}/run-sheet`)
  await page.getByRole('button', { name: 'Begin the night' }).click()
  const due = page.getByRole('region', { name: 'Due now' })
  await expect(due).toBeVisible()
  await page.goto(`/shows/${id}/on-air`)
  await expect(framesOf(page)).toHaveText(/[1-9]\d* of/)
  await expect(due.getByRole('button').first()).toBeVisible()
  await expectAccessible(page)

  const logged = async (kind: string): Promise<number> => {
    const night = await (await fetch(`${address}/api/shows/${id}/night`)).text()
    return night.split(`"kind":"${kind}"`).length - 1
  }
  await page.keyboard.press('m')
  await page.getByRole('button', { name: 'Mark' }).click()
  await expect.poll(() => logged('marked')).toBe(2)

  const first = await due.getByRole('heading').textContent()
  await page.keyboard.press('d')
  await expect(due.getByRole('heading')).not.toHaveText(first!)
  await expect.poll(() => logged('ticked')).toBe(1)

  const middle = () => middleOf(page)
  await expect.poll(middle).toEqual(['red', 'red'])
  await page.getByRole('button', { name: 'Standby' }).click()
  await expect.poll(middle).toEqual(['grey', 'grey'])
  await expect(page.getByRole('button', { name: 'Standby' })).toBeDisabled()
  await expect.poll(() => logged('scene')).toBe(1)
})
