import { execFileSync } from 'node:child_process'
import { newDestination, type Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { afterEach, expect, it } from 'vitest'
import { beginListening, endAllListening, endListening, listeningState } from './listening'

afterEach(() => endAllListening())

let last = 0
const id = (): string => `id-${(last += 1)}`
const places = (count: number, protocol: 'rtmp' | 'srt' | 'whip'): Show['destinations'] =>
  Array.from({ length: count }, (_, index) => ({
    ...newDestination(id, `${protocol} ${index}`, 'landscape'),
    protocol,
  }))
const showOf = (...destinations: Show['destinations']): Show => ({
  ...demoShow,
  recordings: [],
  destinations,
})
const waiting = (): number =>
  execFileSync('ps', ['-eo', 'args'], { encoding: 'utf8' })
    .split('\n')
    .filter((args) => args.startsWith('/usr/bin/ffmpeg') && args.includes('mode=listener')).length

it('gives every send a key of its own, and listens over SRT to no more than it has processes for', async () => {
  const before = waiting()
  await beginListening('crowd', showOf(...places(30, 'rtmp'), ...places(15, 'srt')))
  const { sends } = listeningState('crowd')!
  expect(sends).toHaveLength(45)
  const keys = sends.map(({ streamKey }) => streamKey).filter((key) => key !== '')
  expect(new Set(keys).size).toBe(30)
  const overSrt = sends.filter(({ address }) => address?.startsWith('srt'))
  expect(new Set(overSrt.map(({ address }) => address)).size).toBe(12)
  expect(sends.filter(({ address }) => address === null).map(({ note }) => note)).toEqual(
    Array.from({ length: 3 }, () => 'At most 12 sends over SRT are listened to at once.'),
  )
  await endAllListening()
  expect(listeningState('crowd')).toBeNull()
  expect(waiting()).toBe(before)
})

it('keeps the address and key of what is still sent, and says what it cannot listen to', async () => {
  const [first, second] = places(2, 'rtmp') as [
    Show['destinations'][number],
    Show['destinations'][number],
  ]
  await beginListening('changing', showOf(first, second))
  const before = listeningState('changing')!.sends
  await beginListening('changing', showOf(second, ...places(1, 'whip')))
  const after = listeningState('changing')!.sends
  expect(after).toHaveLength(2)
  expect(after[0]!.streamKey).toBe(before[1]!.streamKey)
  expect(after[1]).toMatchObject({ address: null, note: 'Nothing here can listen over WHIP.' })
})

it('opens once, whoever begins at the same moment, and ends what was only just begun', async () => {
  const show = showOf(...places(2, 'rtmp'), ...places(2, 'srt'))
  await Promise.all(Array.from({ length: 5 }, () => beginListening('at once', show)))
  const { sends } = listeningState('at once')!
  expect(sends).toHaveLength(4)
  expect(new Set(sends.map(({ address }) => address)).size).toBe(3)
  await Promise.all([endListening('at once'), beginListening('at once', show)])
  expect(listeningState('at once')?.sends).toHaveLength(4)
  await endListening('at once')
  expect(listeningState('at once')).toBeNull()
})
