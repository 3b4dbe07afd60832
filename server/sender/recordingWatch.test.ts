import { expect, it } from 'vitest'
import { isRoomToBegin, RecordingWatch, unrecordedWords } from './recordingWatch'

it('a recording that grows no more is said once, and again only after it had grown', () => {
  let now = 0
  const watch = new RecordingWatch(() => now)
  const archive = { name: 'Archive', file: 'a.mkv', megabytes: 1 }
  const other = { name: 'Other', file: 'b.mkv', megabytes: 1 }
  const said: string[] = []
  for (; now < 60; now += 1) {
    // The disk is full from second 10 to 40.
    if (now < 10 || now > 40) archive.megabytes += 1
    other.megabytes += 1
    said.push(...watch.look([archive, other]).map(({ name }) => `${name} ${now}`))
    if (now === 30) expect(watch.still([archive, other])).toEqual([archive])
  }
  expect(said).toEqual(['Archive 17'])
  expect(watch.still([archive, other])).toEqual([])
  expect(unrecordedWords(archive)).toMatch(/^Archive is not recorded any more, at \d+ MB/)
})

it('begins again only with room, and where it is known', () => {
  expect([null, 0, 0.4, 0.5, 80].map(isRoomToBegin)).toEqual([false, false, false, true, true])
})
