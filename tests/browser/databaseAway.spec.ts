import { startPrivateMariadb } from '../../scripts/mariadb'
import { expect, startStack, stopStack, storeShow, test } from './fixtures'
import { tonight } from './smallShow'

test(
  'with the database away a phone keeps what was pressed and tells it late, and pages say what is wrong',
  { tag: '@deep' },
  async ({ page, context, consoleProblems }) => {
    const stack = await startStack()
    try {
      const { address } = stack.application
      const { id } = await storeShow(address, tonight())
      await page.goto(`${address}/shows/${id}/run-sheet`)
      await page.getByRole('button', { name: 'Begin the night' }).click()
      const phone = await context.newPage()
      await phone.goto(`${address}/phone/${id}`)
      const mark = phone.getByRole('button', { name: 'Mark now' })
      await expect(mark).toBeVisible()

      await stack.mariadb.kill()
      await mark.click()
      await expect(phone.getByText(/Not kept by the server yet: 1/)).toBeVisible()
      await expect(phone.getByRole('alert')).not.toContainText(/500|Server Error/)
      const other = await fetch(`${address}/api/shows/${id}/night`)
      expect(other.status).toBe(503)
      const text = await (await fetch(`${address}/shows/${id}/run-sheet`)).text()
      expect(text).not.toContain('host name is not one of ours')

      const { port } = stack.mariadb
      stack.mariadb = await startPrivateMariadb({ directory: stack.directory, port })
      await expect(phone.getByText(/Not kept by the server yet/)).toBeHidden()
      const marks = page.getByRole('list', { name: 'Marks made' }).getByRole('listitem')
      await expect(marks).toHaveCount(1)
      await phone.close()
    } finally {
      await page.goto('about:blank')
      consoleProblems.splice(0)
      await stopStack(stack)
    }
  },
)
