import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Computer } from '../show'
import {
  bitsForTheSame,
  efficienciesFrom,
  efficiencyBitratesKbps,
  furtherBitrateKbps,
  type LikenessPoint,
  withEarlierEfficiencies,
} from './efficiency'

/** A point whose likeness in decibels is known. */
const point = ([videoBitrateKbps, decibels]: readonly [number, number]): LikenessPoint => ({
  videoBitrateKbps,
  ssim: 1 - 10 ** (-decibels / 10),
})
/** An encoder whose likeness grows straight with the logarithm of the bitrate. */
const straight = (bitrates: readonly number[], efficiency: number): LikenessPoint[] =>
  bitrates.map((kbps) => point([kbps, 4 * Math.log(kbps * efficiency) - 14]))

describe('how many times the bits another encoder needs', () => {
  it('agrees with Bjøntegaard’s cubics on the example of public implementations', () => {
    // Rates and decibels from memory; −4.42 % by NumPy's polyfit and polyint of the third degree.
    const anchor = [
      [1358.24, 34.851],
      [2486.44, 36.845],
      [4593.6, 38.615],
      [9487.76, 40.037],
    ] as const
    const test = [
      [1356.24, 34.987],
      [2451.52, 36.97],
      [4469, 38.651],
      [9787.8, 40.121],
    ] as const
    expect(bitsForTheSame(anchor.map(point), test.map(point))).toBeCloseTo(0.9558, 2)
  })

  it('comes back whatever it was, and the other way round is its inverse', () => {
    const times = fc.double({ min: 0.4, max: 2.5, noNaN: true })
    fc.assert(
      fc.property(times, times, (one, other) => {
        const [a, b] = [straight([400, 900, 2000, 4000], one), straight([500, 1100, 3000], other)]
        expect(bitsForTheSame(a, b)).toBeCloseTo(one / other, 6)
        expect(bitsForTheSame(b, a)).toBeCloseTo(other / one, 6)
      }),
    )
  })

  it('is not said where they have no likeness in common, or more bits bought none', () => {
    const low = straight([100, 200], 1)
    expect(bitsForTheSame(low, straight([5000, 9000], 1))).toBeNull()
    expect(bitsForTheSame(low, [point([100, 10]), point([200, 9])])).toBeNull()
    expect(bitsForTheSame(low, [])).toBeNull()
    // One that fell on the way is left out, the others still tell.
    const fell = [...straight([100, 400], 1), point([200, 1])]
    expect(bitsForTheSame(low, fell)).toBeCloseTo(1, 6)
  })
})

describe('what encoders get out of a bit', () => {
  const reference = straight(efficiencyBitratesKbps('h264'), 1)

  it('is asked for at further bitrates until enough of what the reference reaches is reached', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.15, max: 12, noNaN: true }), (efficiency) => {
        const bitrates = efficiencyBitratesKbps('h264')
        for (;;) {
          const next = furtherBitrateKbps(
            { codec: 'h264', points: straight(bitrates, efficiency) },
            reference,
          )
          if (next === null) break
          bitrates.push(next)
        }
        expect(bitrates.length).toBeLessThanOrEqual(5)
        const measured = efficienciesFrom(
          [{ codec: 'h264', effort: 'fine', points: straight(bitrates, efficiency) }],
          reference,
        )
        // Four times as good or as bad is within two halvings or doublings; whatever is said is right.
        if (efficiency > 0.25 && efficiency < 4) expect(measured).toHaveLength(1)
        for (const said of measured) expect(said.efficiency / efficiency).toBeCloseTo(1, 1)
      }),
    )
    expect(furtherBitrateKbps({ codec: 'h264', points: reference }, reference)).toBeNull()
    expect(furtherBitrateKbps({ codec: 'h264', points: [] }, reference)).toBeNull()
  })

  it('is not said where so little is shared that a mean over it says nothing', () => {
    const saturated = straight([250, 600, 1500], 8)
    expect(bitsForTheSame(reference, saturated)).not.toBeNull()
    const all = [{ codec: 'av1' as const, effort: 'fine' as const, points: saturated }]
    expect(efficienciesFrom(all, reference)).toEqual([])
  })

  it('is told of those that were as good as the reference somewhere, to three digits', () => {
    const measured = efficienciesFrom(
      [
        { codec: 'h264', effort: 'finest', points: reference },
        {
          codec: 'av1',
          effort: 'fine',
          points: straight(efficiencyBitratesKbps('av1'), 1.7241),
        },
        { codec: 'hevc', effort: 'fastest', points: [] },
      ],
      reference,
    )
    expect(measured).toEqual([
      { codec: 'h264', effort: 'finest', efficiency: 1 },
      { codec: 'av1', effort: 'fine', efficiency: 1.72 },
    ])
  })

  it('is kept from an earlier measurement of the same computer that asked for it', () => {
    const computer = (
      efficiency: number | undefined,
      program = 'FFmpeg 5.1',
      megapixelsPerSecond = 90,
    ): Computer => ({
      name: 'This computer',
      freeDiskGigabytes: null,
      devices: [
        {
          ...{ id: 'processor', name: 'Processor', kind: 'processor' },
          ...{ plannedSharePercent: 80, sessions: null, largest: { width: 7680, height: 4320 } },
          throughputs: [
            {
              ...{ codec: 'h264', effort: 'brisk', megapixelsPerSecond },
              ...(efficiency !== undefined && { efficiency }),
            },
          ],
        },
      ],
      measured: {
        ...{ at: '2026-11-26T12:00:00.000Z', installation: 'here', processor: 'Four cores' },
        ...{ program, carries: { rtmp: [], rtmps: [], srt: [], whip: [] } },
      },
    })
    const quick = computer(undefined, 'FFmpeg 5.1', 120)
    expect(withEarlierEfficiencies(quick, computer(0.9))).toEqual(computer(0.9, 'FFmpeg 5.1', 120))
    expect(withEarlierEfficiencies(quick, computer(0.9, 'FFmpeg 7'))).toEqual(quick)
    expect(withEarlierEfficiencies(computer(0.8), computer(0.9))).toEqual(computer(0.8))
    expect(withEarlierEfficiencies(quick, null)).toEqual(quick)

    // By which clip it was measured goes with it, and what two clips say is not put together.
    const by = (own: Computer, efficiencyClip: string): Computer => ({
      ...own,
      measured: { ...own.measured!, efficiencyClip },
    })
    expect(withEarlierEfficiencies(quick, by(computer(0.9), 'Workshop'))).toEqual(
      by(computer(0.9, 'FFmpeg 5.1', 120), 'Workshop'),
    )
    expect(withEarlierEfficiencies(by(quick, 'Workshop'), computer(0.9))).toEqual(
      computer(0.9, 'FFmpeg 5.1', 120),
    )
    const graphics = { ...computer(1).devices[0]!, id: 'graphics', kind: 'graphics' as const }
    const withGraphics = (own: Computer): Computer => ({
      ...own,
      devices: [...own.devices, graphics],
    })
    const stopped = by(withGraphics(quick), 'Workshop')
    const earlier = withGraphics(computer(0.9))
    expect(withEarlierEfficiencies(stopped, earlier)).toEqual(stopped)
    expect(withEarlierEfficiencies(stopped, by(earlier, 'Workshop'))).toEqual(
      by(withGraphics(computer(0.9, 'FFmpeg 5.1', 120)), 'Workshop'),
    )
  })
})
