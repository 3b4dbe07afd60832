import { expect, it } from 'vitest'
import { inUploadTurn } from './uploadTurns'

it('takes three at once, lets twelve wait in their order, and tells the sixteenth', async () => {
  const ends: (() => void)[] = []
  const begun: number[] = []
  const take = (number: number) =>
    inUploadTurn(async () => {
      begun.push(number)
      await new Promise<void>((resolve) => ends.push(resolve))
    })
  const all = Array.from({ length: 15 }, (_, number) => take(number))
  await expect(take(15)).rejects.toMatchObject({ details: { status: 503 } })
  expect(begun).toEqual([0, 1, 2])
  for (let ended = 0; ended < 15; ended += 1) {
    ends[ended]?.()
    await new Promise((resolve) => setImmediate(resolve))
  }
  await Promise.all(all)
  expect(begun).toEqual(Array.from({ length: 15 }, (_, number) => number))
  await expect(inUploadTurn(() => Promise.reject(new Error('broken')))).rejects.toThrow('broken')
  expect(await inUploadTurn(() => Promise.resolve('taken'))).toBe('taken')
})
