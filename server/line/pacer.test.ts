import { type PracticeLine } from '@green-mantle/core/network'
import { describe, expect, it } from 'vitest'
import { pacedDatagrams } from './pacedDatagrams'
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

  it('gives what a small one does not need to the others', async () => {
    const { pacer, pass, greedy } = simulated(still)
    const large = greedy()
    const small = pacer.open()
    let smallBytes = 0
    for (let tick = 0; tick < 160; tick += 1) {
      // 100,000 bytes a second of 1,000,000.
      void small.pass(2500).then(() => (smallBytes += 2500))
      await pass(25)
    }
    expect(smallBytes).toBeGreaterThan(390_000)
    expect(Math.abs(large.bytes - 3_600_000)).toBeLessThan(60_000)
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

describe('datagrams on a paced line', () => {
  /** Too high a number for any loss. */
  const nothingLost = () => 1

  /** Offers so many bytes a tick of 25 ms in datagrams of 1000, for four seconds; how many got through. */
  async function offered(line: PracticeLine, bytesATick: number, chance = nothingLost) {
    const { pacer, pass, greedy } = simulated(line)
    const datagrams = pacedDatagrams(pacer, chance)
    const told = { through: 0, lost: 0 }
    const others = (count: number) => Array.from({ length: count }, greedy)
    const run = async (): Promise<typeof told> => {
      for (let tick = 0; tick < 160; tick += 1) {
        for (let sent = 0; sent < bytesATick; sent += 1000)
          void datagrams
            .pass('one', 1000)
            .then((isThrough) => (told[isThrough ? 'through' : 'lost'] += 1))
        await pass(25)
      }
      return told
    }
    return { run, others, datagrams }
  }

  it('get through where there is room, and lose what is too much', async () => {
    const fits = await (await offered(still, 10_000)).run()
    expect(fits.lost).toBe(0)
    expect(fits.through).toBeGreaterThan(1580)
    // Twice what the line carries: half is lost, but for what waits in the queue.
    const { through, lost } = await (await offered(still, 50_000)).run()
    expect(Math.abs(through - 4000)).toBeLessThan(120)
    expect(Math.abs(lost - 4000)).toBeLessThan(120)
  })

  it('lose what the line loses, and have their share beside streams', async () => {
    let call = 0
    const everyTenth = (): number => ((call += 1) % 10 === 0 ? 0 : 1)
    const lossy = await (await offered({ ...still, lossPercent: 1 }, 10_000, everyTenth)).run()
    expect(lossy.lost).toBe(160)
    const shared = await offered(still, 50_000)
    const [stream] = shared.others(1)
    const { through } = await shared.run()
    expect(Math.abs(through - 2000)).toBeLessThan(100)
    expect(Math.abs(stream!.bytes - 2_000_000)).toBeLessThan(100_000)
  })

  it('are let through once it is over', async () => {
    const { datagrams } = await offered({ ...still, capacityKbps: 1 }, 0)
    const waiting = datagrams.pass('one', 1000)
    datagrams.close()
    expect(await waiting).toBe(true)
    expect(await datagrams.pass('one', 1_000_000)).toBe(true)
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
