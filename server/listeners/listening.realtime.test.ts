import { createSocket } from 'node:dgram'
import { connect } from 'node:net'
import { newDestination, type Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { ownPrograms } from '../programs/programsForTests'
import {
  beginListening,
  closeListening,
  endAllListening,
  endListening,
  listeningState,
  openListening,
} from './listening'

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
  ownPrograms().filter((args) => /mode=listener|session\.sdp/.test(args)).length

it('gives every send a key of its own, and listens over SRT to no more than it has processes for', async () => {
  const before = waiting()
  await beginListening('crowd', showOf(...places(30, 'rtmp'), ...places(15, 'srt')))
  const { sends } = listeningState('crowd')!
  expect(sends).toHaveLength(45)
  const keys = sends.map(({ streamKey }) => streamKey).filter((key) => key !== '')
  expect(new Set(keys).size).toBe(42)
  const overSrt = sends.filter(({ address }) => address?.startsWith('srt'))
  expect(new Set(overSrt.map(({ address }) => address)).size).toBe(12)
  expect(sends.filter(({ address }) => address === null).map(({ note }) => note)).toEqual(
    Array.from({ length: 3 }, () => 'At most 12 sends over SRT are listened to at once.'),
  )
  await endAllListening()
  expect(listeningState('crowd')).toBeNull()
  expect(waiting()).toBe(before)
})

it('keeps the address and key of what is still sent, and takes every protocol', async () => {
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
  expect(after[1]!.address).toMatch(/^http:.*\/whip$/)
  await beginListening('changing', showOf(second))
  // Nobody is offered anything any more where nothing is sent over WHIP.
  const offered = await fetch(after[1]!.address!, {
    method: 'POST',
    headers: {
      'content-type': 'application/sdp',
      authorization: `Bearer ${after[1]!.streamKey}`,
    },
    body: 'v=0',
  })
  expect(offered.status).toBe(401)
  expect(listeningState('changing')!.strangers).toHaveLength(1)
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

describe('open to the network', () => {
  /** Another address of this computer stands for one on the network. */
  const elsewhere = '127.0.0.2'
  const reaches = (showId: string): Promise<boolean> => {
    const { port } = new URL(listeningState(showId)!.sends[0]!.address!)
    return new Promise((resolve) => {
      const socket = connect({ host: elsewhere, port: Number(port) })
      socket.once('connect', () => {
        socket.destroy()
        resolve(true)
      })
      socket.once('error', () => resolve(false))
    })
  }

  it('only when asked, until it is closed or nothing listens any more', async () => {
    expect(await openListening('nobody', 15, [elsewhere])).toBe(false)
    await beginListening('open', showOf(...places(1, 'rtmp')))
    expect(await reaches('open')).toBe(false)
    expect(listeningState('open')!.network).toBeNull()
    expect(await openListening('open', 15, [elsewhere])).toBe(true)
    expect(await reaches('open')).toBe(true)
    expect(listeningState('open')!.network!.hosts).toEqual([elsewhere])
    // Asked again, it is open for so long from then.
    await openListening('open', 60, [elsewhere])
    expect(await reaches('open')).toBe(true)
    await closeListening('open')
    expect(await reaches('open')).toBe(false)
    await openListening('open', 15, [elsewhere])
    const { port } = new URL(listeningState('open')!.sends[0]!.address!)
    await endListening('open')
    const socket = connect({ host: elsewhere, port: Number(port) })
    await expect(new Promise((_, reject) => socket.once('error', reject))).rejects.toThrow(
      /REFUSED/,
    )
  })

  it('over SRT too, also for what is listened to only later', async () => {
    const isHeld = (address: string): Promise<boolean> =>
      new Promise((resolve) => {
        const probe = createSocket('udp4')
        probe.once('error', () => resolve(true))
        probe.bind(
          { port: Number(new URL(address).port), address: elsewhere, exclusive: true },
          () => probe.close(() => resolve(false)),
        )
      })
    const addresses = (): string[] => listeningState('srt')!.sends.map(({ address }) => address!)
    const [one, two] = places(2, 'srt')
    await beginListening('srt', showOf(one!))
    expect(await isHeld(addresses()[0]!)).toBe(false)
    await openListening('srt', 15, [elsewhere])
    await beginListening('srt', showOf(one!, two!))
    expect(await Promise.all(addresses().map(isHeld))).toEqual([true, true])
    await closeListening('srt')
    expect(await Promise.all(addresses().map(isHeld))).toEqual([false, false])
  })

  it('no longer than was said, though nobody looks', async () => {
    await beginListening('short', showOf(...places(1, 'rtmp')))
    await openListening('short', 0.002, [elsewhere])
    await vi.waitFor(async () => expect(await reaches('short')).toBe(false), 10_000)
    expect(listeningState('short')!.network).toBeNull()
  })

  it('says why where this computer is in no network', async () => {
    await beginListening('alone', showOf(...places(1, 'rtmp')))
    await expect(openListening('alone', 15, [])).rejects.toThrow(/no address on a local network/)
    await expect(openListening('alone', 15, ['203.0.113.9'])).rejects.toThrow(
      /cannot be listened on/,
    )
    expect(listeningState('alone')!.network).toBeNull()
  })
})
