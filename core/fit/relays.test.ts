import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { type Destination, type Rules, streamNames } from '../show'
import { budgetOf } from './budget'
import { pathCeilings } from './pathCeilings'
import { allBreaches, breachesOf } from './rules'
import { savingsOf } from './saving'
import { destination, show } from './testShows'

const { canvasPair } = demoShow

describe('relays, backups and ladders', () => {
  const relay = (changes: Partial<Destination> = {}): Destination =>
    destination(
      { videoBitrateKbps: 6000 },
      { mostFed: 5 },
      { name: 'Relayhouse', connection: 'relay', protocol: 'srt', ...changes },
    )

  it('a relay counts once, however many it feeds', () => {
    const through = relay()
    const fed = [destination(), destination(), destination()].map((each) => ({
      ...each,
      relayId: through.id,
    }))
    const alone = budgetOf(show(20_000, [through, ...fed.slice(0, 1)]))
    expect(budgetOf(show(20_000, [through])).sends).toEqual([])
    const feeding = budgetOf(show(20_000, [through, ...fed]))
    expect(feeding.totalKbps).toBe(alone.totalKbps)
    expect(feeding.encodeCount).toBe(1)
    const directly = fed.map((each) => ({ ...each, relayId: null }))
    expect(budgetOf(show(20_000, [through, ...directly])).sends).toHaveLength(3)
  })

  it('what a relay gets is held to the rules of those it feeds, and mended there', () => {
    const through = relay()
    const fed = destination({}, { mostVideoBitrateKbps: 4000 }, { relayId: through.id })
    const [breach] = allBreaches(show(20_000, [through, fed]))
    expect(breach).toMatchObject({
      destinationId: through.id,
      renditionId: through.renditions[0]!.id,
      rule: 'video bitrate',
      remedy: { changes: { videoBitrateKbps: 4000 } },
    })
    expect(breach?.words).toContain('Longmeadow, through Relayhouse, takes at most 4,000 kb/s')
    expect(allBreaches(show(20_000, [{ ...through, on: false }, fed]))).toEqual([])
  })

  it('a relay that feeds nobody is sent nothing, and so breaks no rule', () => {
    const idle = relay()
    const strict = { ...idle, rules: { ...idle.rules, mostVideoBitrateKbps: 4000 } }
    expect(allBreaches(show(20_000, [strict]))).toEqual([])
    const fed = destination({}, {}, { relayId: strict.id })
    expect(allBreaches(show(20_000, [strict, fed]))).toMatchObject([
      { destinationId: strict.id, rule: 'video bitrate' },
    ])
  })

  it('a backup is sent as well, from the same encode', () => {
    const plain = destination()
    const doubled = { ...plain, backupAddress: 'rtmps://second.example/live' }
    const [once, twice] = [plain, doubled].map((each) => budgetOf(show(20_000, [each])))
    expect(twice!.totalKbps).toBeCloseTo(2 * once!.totalKbps, 9)
    expect(twice!.encodeCount).toBe(once!.encodeCount)
    expect(twice!.sends.map(({ name }) => name)).toEqual(['Longmeadow', 'Longmeadow backup'])
  })

  it('lowering what has a backup saves twice', () => {
    const doubled = destination({ videoBitrateKbps: 4000 }, {}, { backupAddress: '' })
    const tight = show(7000, [doubled])
    const savings = savingsOf(tight)
    expect(savings.map(({ name }) => name)).toEqual(['Longmeadow'])
    const lowered = savings[0]?.toVideoBitrateKbps ?? 0
    const spareAt = (videoBitrateKbps: number): number => {
      const renditions = doubled.renditions.map((each) => ({ ...each, videoBitrateKbps }))
      return budgetOf({ ...tight, destinations: [{ ...doubled, renditions }] }).spareKbps
    }
    expect(spareAt(lowered)).toBeGreaterThanOrEqual(0)
    expect(spareAt(lowered + 50)).toBeLessThan(0)
  })

  it('paths are held to their TCP ceiling, the tightest first', () => {
    const path = (roundTripMilliseconds: number, lossPercent: number) => ({
      path: { roundTripMilliseconds, lossPercent },
    })
    const ceilings = pathCeilings(
      show(20_000, [
        destination({}, {}, { name: 'Near', ...path(10, 0.01) }),
        // 1.42 Mb/s at 100 ms and 1 % (Mathis et al. 1997).
        destination({}, {}, { name: 'Far', ...path(100, 1) }),
        destination({}, {}, { name: 'Clean', ...path(100, 0) }),
        destination({}, {}, { name: 'Over UDP', protocol: 'srt', ...path(100, 1) }),
        destination({}, {}, { name: 'Unknown' }),
      ]),
    )
    expect(ceilings.map(({ name, fits }) => [name, fits])).toEqual([
      ['Far', false],
      ['Near', true],
      ['Clean', true],
    ])
    expect(ceilings[0]?.ceilingKbps).toBeCloseTo(1419, 0)
    expect(ceilings[2]?.ceilingKbps).toBeNull()
  })

  it.each([
    ['an audio codec it does not take', { audioCodec: 'opus' }, {}, {}, { audioCodec: 'aac' }],
    ['stereo where it takes mono', {}, { mostAudioChannels: 1 }, {}, { audioChannels: 1 }],
    [
      'an audio codec that its protocol does not carry',
      {},
      { audioCodecs: ['aac', 'opus'] },
      { protocol: 'whip' },
      { audioCodec: 'opus' },
    ],
  ] as const)('finds %s', (_, rendition, rules, changes, remedy) => {
    const found = breachesOf(
      destination(rendition, rules as Partial<Rules>, changes as Partial<Destination>),
      canvasPair,
    )
    expect(found).toHaveLength(1)
    expect(found[0]?.remedy?.changes).toEqual(remedy)
  })

  it('ladder steps are called by the stream name with 2 and 3 appended (common practice)', () => {
    const ladder = demoShow.destinations.find(({ id }) => id === 'rookery')!
    expect(streamNames(ladder)).toEqual(['fernhollow', 'fernhollow2', 'fernhollow3'])
    expect(streamNames({ ...ladder, streamName: '' })).toEqual(['', '', ''])
  })
})
