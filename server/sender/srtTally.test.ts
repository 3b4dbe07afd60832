import { describe, expect, it } from 'vitest'
import { SrtTally } from './srtTally'

function data(sequence: number, { timestamp = 0, resent = false, bytes = 1332 } = {}): Buffer {
  const datagram = Buffer.alloc(bytes)
  datagram.writeUInt32BE(sequence, 0)
  datagram[4] = 0xc0 | (resent ? 0x04 : 0)
  datagram.writeUInt32BE(timestamp, 8)
  return datagram
}

function acknowledging(sequence: number, roundTripMicroseconds = 40_000): Buffer {
  const datagram = Buffer.alloc(44)
  datagram.writeUInt16BE(0x8002, 0)
  datagram.writeUInt32BE(sequence, 16)
  datagram.writeUInt32BE(roundTripMicroseconds, 20)
  return datagram
}

function missing(...words: number[]): Buffer {
  const datagram = Buffer.alloc(16 + 4 * words.length)
  datagram.writeUInt16BE(0x8003, 0)
  words.forEach((word, place) => datagram.writeUInt32BE(word >>> 0, 16 + 4 * place))
  return datagram
}

/** So many frames of three packets each, 33 ms apart, from a sequence number on. */
function frames(tally: SrtTally, count: number, first = 1000): number {
  for (let packet = 0; packet < 3 * count; packet += 1)
    tally.there(data((first + packet) & 0x7fffffff, { timestamp: Math.floor(packet / 3) * 33_000 }))
  return (first + 3 * count) & 0x7fffffff
}

let time = 0

/** The answer to a call, with what was agreed. */
function agreeing(latencyMilliseconds: number): Buffer {
  const datagram = Buffer.alloc(80)
  datagram.writeUInt16BE(0x8000, 0)
  datagram.writeUInt32BE(0xffffffff, 36)
  datagram.writeUInt16BE(2, 64)
  datagram.writeUInt16BE(3, 66)
  datagram.writeUInt16BE(latencyMilliseconds, 76)
  return datagram
}

describe('what is seen of an SRT send', () => {
  it('is all of it where nothing is missing, and its round trip', () => {
    const tally = new SrtTally(() => time)
    tally.back(acknowledging(frames(tally, 10)))
    expect(tally.seen()).toEqual({
      ...{ arrivedShare: 1, lostShare: 0, resentPackets: 0, roundTripMilliseconds: 40 },
    })
  })

  it('is nothing lost where what was missing was sent again and came', () => {
    const tally = new SrtTally(() => time)
    const end = frames(tally, 10)
    tally.back(missing(1004))
    tally.there(data(1004, { resent: true }))
    time += 60
    tally.back(acknowledging(end))
    expect(tally.seen()).toMatchObject({ lostShare: 0, resentPackets: 1, arrivedShare: 1 })
  })

  it('is a frame lost for whatever of it did not come, once, alone or in a range', () => {
    const tally = new SrtTally(() => time)
    const end = frames(tally, 10)
    // Two packets of one frame, and from the middle of another to the middle of the next.
    tally.back(missing(1003, 1004, 0x80000000 | 1010, 1013))
    time += 125
    tally.back(acknowledging(end))
    expect(tally.seen().lostShare).toBeCloseTo(3 / 10, 9)
    expect(tally.seen().arrivedShare).toBeCloseTo(24 / 30, 9)
  })

  it('waits as long as the two sides agreed', () => {
    const tally = new SrtTally(() => time)
    tally.back(agreeing(500))
    const end = frames(tally, 10)
    tally.back(missing(1003))
    time += 300
    tally.back(acknowledging(end))
    expect(tally.seen().lostShare).toBe(0)
  })

  it('counts what was given up before it was sent, as on a line that carries too little', () => {
    const tally = new SrtTally(() => time)
    for (let frame = 0; frame < 10; frame += 1)
      for (let packet = 0; packet < 3; packet += 1)
        if (frame % 2 === 0) tally.there(data(3 * frame + packet, { timestamp: 33_000 * frame }))
    tally.back(acknowledging(27))
    expect(tally.seen().lostShare).toBeCloseTo(4 / 9, 9)
    expect(tally.seen().arrivedShare).toBeCloseTo(5 / 9, 1)
  })

  it('goes on over the end of the numbers, and takes nothing from what is no datagram of SRT', () => {
    const tally = new SrtTally(() => time)
    tally.back(acknowledging(frames(tally, 10, 0x7fffffff - 10)))
    expect(tally.seen()).toMatchObject({ arrivedShare: 1, lostShare: 0 })
    for (const odd of [
      Buffer.alloc(0),
      Buffer.alloc(3),
      Buffer.alloc(19, 0x80),
      acknowledging(5),
    ]) {
      tally.there(odd)
      tally.back(odd)
    }
    expect(tally.seen()).toMatchObject({ arrivedShare: 1, lostShare: 0 })
  })
})
