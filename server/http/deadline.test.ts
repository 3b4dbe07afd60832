import { expect, it } from 'vitest'
import { TookTooLong, withDeadline } from './deadline'

it('gives what the work gives, fails as it fails, and ends what never ends', async () => {
  expect(await withDeadline(Promise.resolve(7), 1)).toBe(7)
  await expect(withDeadline(Promise.reject(new Error('no')), 1)).rejects.toThrow('no')
  const never = new Promise(() => {})
  await expect(withDeadline(never, 0.02)).rejects.toBeInstanceOf(TookTooLong)
})
