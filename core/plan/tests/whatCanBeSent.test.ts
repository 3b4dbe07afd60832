import { describe, expect, it } from 'vitest'
import { destination, show as showWith } from '../../fit/testShows'
import { defaultPlanChoices, type Destination, type Rendition, type Show } from '../../show'
import { fitShow } from '../fitShow'
import { withPlan } from '../showPlan'

let last = 0
const place = (
  rules: Partial<Destination['rules']>,
  changes: Partial<Destination> = {},
  rendition: Partial<Rendition> = {},
): Destination => {
  const id = `place-${(last += 1)}`
  return destination(rendition, rules, { id, name: id, ...changes })
}
const device = {
  ...{ id: 'chip', name: 'Chip', kind: 'graphics' as const, plannedSharePercent: 80, sessions: 8 },
  largest: { width: 4096, height: 4096 },
  throughputs: (['h264', 'hevc'] as const).map((codec) => ({
    ...{ codec, effort: 'balanced' as const, megapixelsPerSecond: 2000 },
  })),
}
const onComputer = (show: Show, measured: Show['computer']['measured'] = null): Show => ({
  ...show,
  computer: {
    ...show.computer,
    devices: [{ ...show.computer.devices[0], ...device } as Show['computer']['devices'][number]],
    measured,
  },
})
const planned = (show: Show): Show => withPlan(show, fitShow(show).parts ?? [])
const codecsOf = (show: Show): Record<string, string> =>
  Object.fromEntries(
    show.destinations.map(({ id, renditions }) => [id, renditions[0]!.codec] as const),
  )
const both = { codecs: ['h264', 'hevc'] as Destination['rules']['codecs'] }
const trusting = (newerCodecs: boolean): Partial<Destination> => ({
  protocol: 'srt',
  plan: { ...defaultPlanChoices, newerCodecs },
})

describe('what a plan sends', () => {
  it('keeps to each one’s own wish for newer codecs, in whatever order they stand', () => {
    const [trusts, not] = [place(both, trusting(true)), place(both, trusting(false))]
    for (const destinations of [
      [trusts, not],
      [not, trusts],
    ]) {
      const codecs = codecsOf(planned(onComputer(showWith(4000, destinations))))
      expect(codecs[not.id]).toBe('h264')
      expect(codecs[trusts.id]).toBe('hevc')
    }
  })

  it('is held to be larger than the next step of a ladder only where that is sent', () => {
    const sizes = { type: 'one of' as const, sizes: [{ width: 640, height: 360 }] }
    const given = place({ sizes, mostRenditions: 1 })
    const [first] = given.renditions as [Rendition]
    const surplus = { ...first, id: 'surplus', width: 1280, height: 720 }
    const plan = fitShow(onComputer(showWith(4000, [{ ...given, renditions: [first, surplus] }])))
    expect(plan.worth).toMatchObject({ leftOutWeight: 0 })
  })

  it('is nothing that the encoder program cannot send there, pinned or by a relay', () => {
    const measured = {
      ...({} as NonNullable<Show['computer']['measured']>),
      carries: {
        ...{
          rtmp: ['h264' as const],
          rtmps: ['h264' as const],
          srt: ['h264' as const, 'hevc' as const],
        },
        whip: [],
      },
    }
    const pinned = place(both, { protocol: 'rtmp' }, { codec: 'hevc', pins: ['codec'] })
    const { worth } = fitShow(onComputer(showWith(4000, [pinned]), measured))
    expect(worth?.leftOutWeight).toBeGreaterThan(0)

    const relay: Destination = { ...place(both, { protocol: 'rtmp' }), connection: 'relay' }
    const fed = place(both, {
      ...{ relayId: relay.id, protocol: 'srt' },
      plan: { ...defaultPlanChoices, newerCodecs: true },
    })
    const codecs = codecsOf(planned(onComputer(showWith(4000, [fed, relay]), measured)))
    expect(codecs[relay.id]).toBe('h264')
  })
})
