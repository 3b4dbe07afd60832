import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newLine } from '../show'
import { dataUse } from './dataUse'
import { localLoad } from './localLoad'
import { maxMinShares } from './maxMinShares'
import { mediaCompared } from './mediaCompared'
import { eveningShare, practiceLineNames, practiceLines, practiceSeconds } from './practiceLine'
import { longestOutageSeconds, reconnectPractice } from './reconnect'
import { tcpCeilingKbps } from './tcpCeiling'
import { transferRates } from './transferRates'

describe('the TCP ceiling', () => {
  // Worked values of Mathis et al. 1997 with MSS 1448 and C = √1.5, from memory of the paper.
  it.each([
    [100, 0.01, 14_190],
    [100, 1, 1419],
    [50, 1, 2838],
  ])('at %i ms and %f %% loss is %i kb/s', (roundTrip, loss, kbps) => {
    expect(tcpCeilingKbps(roundTrip, loss)).toBeCloseTo(kbps, -1)
  })

  it('says nothing without loss, and refuses what is no path', () => {
    expect(tcpCeilingKbps(30, 0)).toBe(Infinity)
    expect(() => tcpCeilingKbps(0, 1)).toThrow(RangeError)
    expect(() => tcpCeilingKbps(30, 101)).toThrow(RangeError)
  })
})

describe('max-min shares', () => {
  it('are those of the textbook', () => {
    // Demands 2, 2.6, 4, 5 on a link of 10; the example of many networking textbooks, from memory.
    const shares = maxMinShares([2, 2.6, 4, 5], 10)
    expect(shares.map((share) => Number(share.toFixed(6)))).toEqual([2, 2.6, 2.7, 2.7])
    expect(maxMinShares([5, 2, 4, 2.6], 10).map((share) => Number(share.toFixed(6)))).toEqual([
      2.7, 2, 2.7, 2.6,
    ])
  })

  it('give nobody more than asked, use all that can be used, and envy nobody', () => {
    const demands = fc.array(fc.double({ min: 0, max: 1000, noNaN: true }), { maxLength: 12 })
    fc.assert(
      fc.property(demands, fc.double({ min: 0, max: 4000, noNaN: true }), (asked, capacity) => {
        const shares = maxMinShares(asked, capacity)
        const wanted = asked.reduce((a, b) => a + b, 0)
        const given = shares.reduce((a, b) => a + b, 0)
        expect(given).toBeCloseTo(Math.min(wanted, capacity), 6)
        shares.forEach((share, index) => {
          expect(share).toBeLessThanOrEqual(asked[index]! + 1e-9)
          // Whoever got less than asked has at least as much as everybody else.
          if (share < asked[index]! - 1e-6)
            expect(share).toBeGreaterThanOrEqual(Math.max(...shares) - 1e-6)
        })
      }),
    )
  })
})

describe('the local network', () => {
  const cameras = (count: number) =>
    Array.from({ length: count }, (_, index) => ({
      id: `camera-${index}`,
      name: 'Camera',
      bitrateKbps: 100_000,
      on: true,
    }))

  it('carries five cameras of 100 Mb/s on a gigabit switch; common practice, no published source', () => {
    const load = localLoad({ linkKbps: 1_000_000, devices: cameras(5) })
    expect(load).toMatchObject({ loadKbps: 500_000, share: 0.5, fits: true })
    expect(localLoad({ linkKbps: 1_000_000, devices: cameras(7) }).fits).toBe(true)
    expect(localLoad({ linkKbps: 1_000_000, devices: cameras(8) }).fits).toBe(false)
  })

  it('does not count what is off', () => {
    const devices = cameras(3).map((camera, index) => ({ ...camera, on: index === 0 }))
    expect(localLoad({ linkKbps: 100_000, devices })).toMatchObject({
      loadKbps: 100_000,
      fits: false,
    })
  })
})

describe('coming back after a break; common practice, no published source', () => {
  it('is tried after 2 s, at most 25 times, so that every practice line’s outage is outlived', () => {
    expect(reconnectPractice).toEqual({ afterSeconds: 2, maxTries: 25 })
    expect(longestOutageSeconds).toBe(50)
    for (const name of practiceLineNames)
      expect(practiceLines[name].outages.seconds).toBeLessThan(longestOutageSeconds)
  })
})

describe('counted data', () => {
  it('counts whole packets over the show', () => {
    // 8 Mb/s of payload is 1 MB/s, in packets 1500/1448 of it; two hours.
    const use = dataUse(8000, 7200, { gigabytes: 10, usedGigabytes: 4 })
    expect(use.showGigabytes).toBeCloseTo((7200 * 1500) / 1448 / 1000, 9)
    expect(use.leftGigabytes).toBe(6)
    expect(use.runsOutAfterSeconds).toBeCloseTo(6e9 / (1e6 * (1500 / 1448)), 6)
  })

  it('lasts where there is enough, and is gone at once where none is left', () => {
    expect(dataUse(8000, 3600, { gigabytes: 10, usedGigabytes: 0 }).runsOutAfterSeconds).toBeNull()
    expect(dataUse(8000, 60, { gigabytes: 1, usedGigabytes: 2 }).runsOutAfterSeconds).toBe(0)
    expect(dataUse(0, 60, { gigabytes: 1, usedGigabytes: 2 }).runsOutAfterSeconds).toBeNull()
  })
})

describe('media side by side', () => {
  it('puts the steadiest first, each by its own percentile', () => {
    const sample = (id: number, medium: 'cable' | 'wifi', uploadKbps: number) => ({
      id: `s${id}`,
      measuredAt: '2026-12-01T10:00:00Z',
      uploadKbps,
      medium,
      roundTripMilliseconds: null,
      lossPercent: null,
      retransmits: null,
      note: '',
    })
    const line = {
      ...newLine('line', 'Line'),
      samples: [
        ...[20, 12, 8, 16, 10].map((mbps, index) => sample(index, 'wifi', mbps * 1000)),
        ...[18, 17].map((mbps, index) => sample(10 + index, 'cable', mbps * 1000)),
      ],
    }
    expect(mediaCompared(line)).toEqual([
      { medium: 'cable', sampleCount: 2, steadyKbps: 17_000, medianKbps: 17_500, shareOfBest: 1 },
      // Type 7: a tenth of the way through four steps is 0.4 between 8 and 10.
      {
        medium: 'wifi',
        sampleCount: 5,
        steadyKbps: 8800,
        medianKbps: 12_000,
        shareOfBest: 8800 / 17_000,
      },
    ])
    expect(mediaCompared({ ...line, samples: [] })).toEqual([])
  })
})

describe('rates of transfers', () => {
  const span = { fromMilliseconds: 1000, toMilliseconds: 4500 }

  it('spread a transfer over the time it took', () => {
    const transfers = [
      { fromMilliseconds: 1500, toMilliseconds: 2500, bytes: 1000 },
      { fromMilliseconds: 3000, toMilliseconds: 3500, bytes: 250 },
    ]
    expect(transferRates(transfers, span, 1000)).toEqual([4, 4, 2])
  })

  it('lose no byte that fell within the whole intervals', () => {
    const transfer = fc
      .tuple(fc.integer({ min: 1000, max: 3900 }), fc.integer({ min: 0, max: 500 }), fc.nat(1e6))
      .map(([from, took, bytes]) => ({
        fromMilliseconds: from,
        toMilliseconds: Math.min(4000, from + took),
        bytes,
      }))
      .filter(({ fromMilliseconds, toMilliseconds }) => fromMilliseconds < toMilliseconds)
    fc.assert(
      fc.property(fc.array(transfer), (transfers) => {
        const total = transferRates(transfers, span, 1000).reduce(
          (sum, kbps) => sum + kbps * 125,
          0,
        )
        expect(total).toBeCloseTo(
          transfers.reduce((sum, { bytes }) => sum + bytes, 0),
          3,
        )
      }),
    )
  })
})

describe('a practice line', () => {
  const seconds = (name: keyof typeof practiceLines, seed: number, count = 600, startHour = 14) =>
    practiceSeconds(practiceLines[name], { seed, startHour, count })

  it.each(practiceLineNames)(
    '%s is the same for the same seed, and another for another',
    (name) => {
      expect(seconds(name, 7)).toEqual(seconds(name, 7))
      expect(seconds(name, 7, 60)).toEqual(seconds(name, 7).slice(0, 60))
      expect(seconds(name, 7)).not.toEqual(seconds(name, 8))
    },
  )

  it('has less in the evening, outages in which nothing goes, and bursts of loss', () => {
    const mean = (hour: number) => {
      const all = seconds('venue wifi', 3, 3600, hour)
      return all.reduce((sum, { capacityKbps }) => sum + capacityKbps, 0) / all.length
    }
    expect(mean(20.5)).toBeLessThan(0.7 * mean(14))
    const hour = seconds('mobile', 5, 3600)
    expect(hour.filter(({ state }) => state === 'outage').length).toBeGreaterThan(10)
    expect(
      hour.filter(({ state, capacityKbps }) => (state === 'outage') !== (capacityKbps === 0)),
    ).toEqual([])
    expect(hour.find(({ state }) => state === 'burst of loss')?.lossPercent).toBe(2)
  })

  it('dips around nine in the evening', () => {
    expect([14, 17, 19, 21, 23, 1].map(eveningShare)).toEqual([0, 0, 0.5, 1, 0.5, 0])
  })
})
