import { defaultSending, type Sending } from '@green-mantle/core/show'
import { byFrames, lostOf, newTrace, runNight } from '@green-mantle/core/simulation'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { incident, night, send, steady } from '../../core/simulation/nightsForTests'
import type { Publisher } from './publisher'
import { RelayedSend, type SendNews } from './relayedSend'

const plannedKbps = 2500
const framesPerSecond = 25
const keyframeEvery = 50
/** A keyframe of five mean frames, as a night is simulated. */
const [keyframeShare, othersShare] = [5, (keyframeEvery - 5) / (keyframeEvery - 1)]
const seconds = 90
const dip = { fromSeconds: 20, seconds: 20, kbps: 1000, otherwiseKbps: 3000 } as const

const kbpsAt = (at: number): number =>
  at >= dip.fromSeconds && at < dip.fromSeconds + dip.seconds ? dip.kbps : dip.otherwiseKbps

/** An ingest behind a line that carries so much at each moment, by the faked clock. */
function steppedLine(began: number) {
  let [waitingBytes, sentBytes, lastAt] = [0, 0, began]
  const carry = (): void => {
    const now = performance.now()
    const carried = (kbpsAt((lastAt - began) / 1000) * (now - lastAt)) / 8
    const gone = Math.min(waitingBytes, carried)
    ;[waitingBytes, sentBytes, lastAt] = [waitingBytes - gone, sentBytes + gone, now]
  }
  const publisher: Publisher = {
    take({ size }) {
      carry()
      waitingBytes += size
    },
    get waitingBytes() {
      carry()
      return waitingBytes
    },
    get sentBytes() {
      carry()
      return sentBytes
    },
    accepted: Promise.resolve(true),
    close: () => {},
    ended: new Promise(() => {}),
  }
  return publisher
}

const packetOf = (index: number, share: number): MediaPacket => {
  const isKey = index % keyframeEvery === 0
  const mean = (plannedKbps * 1000 * share) / 8 / framesPerSecond
  const size = Math.round(mean * (isKey ? keyframeShare : othersShare))
  return {
    ...{ codec_type: 9, flags: isKey ? 3 : 4, size, data: Buffer.alloc(0) },
    ...{ dts: (index * 1000) / framesPerSecond, pts: (index * 1000) / framesPerSecond },
  } as unknown as MediaPacket
}

/** What a send of ours does on that line, and what is simulated of it: the share of each second, and what is lost. */
async function bothOn(sending: Sending) {
  const told: SendNews[] = []
  const relayed = new RelayedSend({
    picture: { codec: 'h264', width: 1280, height: 720, framesPerSecond: 30 },
    ...{ sending, plannedKbps, sound: { codec: 'aac', bitrateKbps: 128, channels: 2 } },
    ingest: async () => ({ address: 'rtmp://ingest.example/live', key: 'key' }),
    told: (what) => told.push(what),
    publish: async () => steppedLine(performance.now()),
  })
  relayed.start()
  await vi.advanceTimersByTimeAsync(1)
  const shares: number[] = []
  let least = 1
  for (let index = 0; index < seconds * framesPerSecond; index += 1) {
    relayed.take(packetOf(index, relayed.share))
    vi.advanceTimersByTime(1000 / framesPerSecond)
    // Looked at as often as the sender does.
    if (index % 5 === 0 && sending.whenBehind === 'lower') relayed.lower()
    least = Math.min(least, relayed.share)
    if (index % framesPerSecond === framesPerSecond - 1) {
      shares.push(least)
      least = 1
    }
  }
  const plan = night({
    ...{ seconds, line: steady(dip.otherwiseKbps) },
    sends: [send({ fullKbps: plannedKbps, framesPerSecond }, sending)],
    incidents: [
      incident('upload dips', dip.fromSeconds, dip.seconds, {
        leftPercent: (100 * dip.kbps) / dip.otherwiseKbps,
      }),
    ],
  })
  const trace = newTrace(plan)
  const [simulated] = runNight(plan, 1, 0, byFrames, trace).sends
  const { lostFrames } = relayed.snapshot()
  relayed.stop()
  return {
    ...{ told, shares, lostFrames, simulatedLost: lostOf(simulated!) },
    simulatedShares: [...trace.shares[0]!],
  }
}

const lowers: Sending = { ...defaultSending, whenBehind: 'lower', leastPercent: 30 }

const mean = (values: readonly number[]): number =>
  values.reduce((sum, each) => sum + each, 0) / values.length

describe('on a line that steps from 3 Mb/s to 1 and back', () => {
  beforeEach(() => {
    vi.useFakeTimers()
  })
  afterEach(() => {
    vi.useRealTimers()
  })

  it('a send that lowers loses nothing, lowers and comes back as is simulated', async () => {
    const found = await bothOn({ ...lowers, mostWaitSeconds: 6 })
    expect([found.lostFrames, found.simulatedLost]).toEqual([0, 0])
    expect(found.told).toEqual(['sending', 'lowered', 'full again'])
    const during = (shares: readonly number[]): number =>
      mean(shares.slice(dip.fromSeconds, dip.fromSeconds + dip.seconds))
    const [own, simulated] = [during(found.shares), during(found.simulatedShares)]
    expect(Math.abs(own / simulated - 1)).toBeLessThan(0.15)
    expect(Math.abs(mean(found.shares) / mean(found.simulatedShares) - 1)).toBeLessThan(0.15)
    expect(own).toBeLessThan(0.6)
    expect(found.shares.at(-1)).toBe(1)
    expect(found.simulatedShares.at(-1)).toBe(1)
  })

  it('a send that lowers and bears little wait drops what is simulated until it is low enough', async () => {
    const found = await bothOn(lowers)
    expect(found.simulatedLost).toBeGreaterThan(20)
    expect(Math.abs(found.lostFrames / found.simulatedLost - 1)).toBeLessThan(0.15)
  })

  it('a send that drops loses what is simulated', async () => {
    const found = await bothOn({ ...defaultSending, whenBehind: 'drop' })
    expect(new Set(found.shares)).toEqual(new Set([1]))
    expect(found.simulatedLost).toBeGreaterThan(100)
    expect(Math.abs(found.lostFrames / found.simulatedLost - 1)).toBeLessThan(0.15)
  })
})
