import { type PracticeLine } from '@green-mantle/core/network'
import { describe, expect, it } from 'vitest'
import { practicePacer } from './pacer'

/** A line that does not move, so that what passes can be worked out. */
const still: PracticeLine = {
  name: 'Still',
  medium: 'cable',
  capacityKbps: 8000,
  wander: 0,
  roundTripMilliseconds: 20,
  lossPercent: 0.001,
  eveningDip: 0,
  bursts: { perMinute: 0, seconds: 0, lossPercent: 0 },
  outages: { perHour: 0, seconds: 0 },
}

function simulated(line: PracticeLine, durationSeconds = 60) {
  let now = 0
  let run = () => {}
  const clock = {
    now: () => now,
    every: (_: number, tick: () => void) => {
      run = tick
      return () => (run = () => {})
    },
  }
  const pacer = practicePacer(line, { seed: 1, startHour: 12, durationSeconds }, clock)
  async function pass(milliseconds: number): Promise<void> {
    for (const end = now + milliseconds; now < end;) {
      now += 25
      run()
      // Those who were let through ask for more before the next tick.
      await new Promise((resolve) => setImmediate(resolve))
    }
  }
  /** A connection that always has more to send. */
  function greedy() {
    const connection = pacer.open()
    const sent = { bytes: 0, connection }
    void (async () => {
      for (;;) {
        await connection.pass(1000)
        sent.bytes += 1000
      }
    })()
    return sent
  }
  return { pacer, pass, greedy }
}

describe('a paced line', () => {
  it('lets through what its capacity is, shared evenly', async () => {
    const { pass, greedy } = simulated(still)
    const senders = [greedy(), greedy(), greedy(), greedy()]
    await pass(4000)
    // 8000 kb/s are 1,000,000 bytes a second.
    for (const { bytes } of senders) expect(Math.abs(bytes - 1_000_000)).toBeLessThan(10_000)
  })

  it('holds one connection to the TCP ceiling of its path, and several to the capacity', async () => {
    // 1448 · 8 / 0.1 s · √1.5 / √0.01 = 1419 kb/s (Mathis et al. 1997).
    const lossy = { ...still, roundTripMilliseconds: 100, lossPercent: 1 }
    const alone = simulated(lossy)
    const one = alone.greedy()
    await alone.pass(4000)
    expect(Math.abs((one.bytes * 8) / 4000 - 1419)).toBeLessThan(20)
    const together = simulated(lossy)
    const eight = Array.from({ length: 8 }, () => together.greedy())
    await together.pass(4000)
    const total = eight.reduce((sum, { bytes }) => sum + bytes, 0)
    expect(Math.abs((total * 8) / 4000 - 8000)).toBeLessThan(100)
  })

  it('gives a connection that ends early to the others', async () => {
    const { pass, greedy } = simulated(still)
    const [first, second] = [greedy(), greedy()]
    await pass(1000)
    first.connection.close()
    const before = second.bytes
    await pass(1000)
    expect(Math.abs(second.bytes - before - 1_000_000)).toBeLessThan(20_000)
  })

  it('lets nothing through in an outage, and a piece larger than a tick in the end', async () => {
    const out = simulated({ ...still, outages: { perHour: 3600, seconds: 1 } })
    const stuck = out.greedy()
    await out.pass(3000)
    expect(stuck.bytes).toBe(0)
    const { pacer, pass } = simulated(still)
    let through = false
    void pacer
      .open()
      .pass(300_000)
      .then(() => (through = true))
    await pass(200)
    expect(through).toBe(false)
    await pass(200)
    expect(through).toBe(true)
  })

  it('leaves nobody waiting when it is stopped', async () => {
    const { pacer } = simulated(still)
    const waiting = pacer.open().pass(1_000_000)
    pacer.stop()
    await expect(waiting).resolves.toBeUndefined()
  })
})

describe('a pacer that is stopped', () => {
  it('lets go of who waits, and of who asks afterwards', async () => {
    const { pacer } = simulated({ ...still, capacityKbps: 1 })
    const connection = pacer.open()
    const waiting = connection.pass(1_000_000)
    pacer.stop()
    await waiting
    await connection.pass(1_000_000)
  })

  it('lets go of who waits on a connection that is closed', async () => {
    const { pacer } = simulated({ ...still, capacityKbps: 1 })
    const connection = pacer.open()
    const waiting = connection.pass(1_000_000)
    connection.close()
    await waiting
  })
})
