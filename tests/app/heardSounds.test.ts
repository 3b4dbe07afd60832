import { beforeEach, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { useHeardSounds } from '~/sound/heardSounds'

beforeEach(() => {
  localStorage.clear()
  vi.useFakeTimers({ now: new Date('2026-12-12T20:00:00Z') })
  return () => vi.useRealTimers()
})

it('keeps when each sound of a show last moved its level, and of no other show', () => {
  const { heardAt, note } = useHeardSounds(() => 'one')
  note(
    new Map([
      ['voice', -20],
      ['music', -80],
    ]),
  )
  expect(heardAt.value).toEqual({ voice: '2026-12-12T20:00:00.000Z' })
  expect(useHeardSounds(() => 'two').heardAt.value).toEqual({})
  vi.setSystemTime(new Date('2026-12-12T20:00:05Z'))
  note(new Map([['voice', -20]]))
  expect(heardAt.value.voice).toBe('2026-12-12T20:00:00.000Z')
  vi.setSystemTime(new Date('2026-12-12T20:00:30Z'))
  note(new Map([['voice', -20]]))
  expect(heardAt.value).toEqual({ voice: '2026-12-12T20:00:30.000Z' })
})

it('is there when the page is opened again, and does not grow without end', async () => {
  const { note } = useHeardSounds(() => 'one')
  note(new Map(Array.from({ length: 300 }, (_, index) => [`sound-${index}`, -10] as const)))
  await nextTick()
  const again = useHeardSounds(() => 'one').heardAt.value
  expect(Object.keys(again)).toHaveLength(200)
  expect(again['sound-299']).toBeDefined()
})
