import { describe, expect, it } from 'vitest'
import { casesOf } from '../../../tests/tier'
import { leastWatchableKbps } from '../../media'
import type { PlannedShow } from '../problem/renditionRequests'
import { fitShow } from '../fitShow'
import { withPlan } from '../showPlan'
import { randomShow } from './testShows'

const seeds = Array.from({ length: 60 }, (_, index) => index + 1)

const planned = (show: PlannedShow): PlannedShow => {
  const { parts } = fitShow(show)
  return parts ? withPlan(show, parts) : show
}

/** What of a planned show is so thin that nobody would send it. */
const unwatchable = ({ destinations, recordings }: PlannedShow): string[] =>
  [
    ...destinations
      .filter(({ on, plan }) => on && !plan.leftOut && !plan.mustKeep)
      .flatMap(({ name, renditions }) => renditions.map((rendition) => ({ name, rendition }))),
    ...recordings.filter(({ on, plan }) => on && !plan.leftOut && !plan.mustKeep),
  ]
    .filter(
      ({ rendition }) =>
        !rendition.pins.includes('video bitrate') &&
        rendition.videoBitrateKbps < leastWatchableKbps(rendition),
    )
    .map(({ name }) => name)

describe('a picture that nobody would send', () => {
  it('begins at a tenth of what is called thin: 138 kb/s of 720p30, less of a newer codec', () => {
    const picture = { width: 1280, height: 720, framesPerSecond: 30 } as const
    expect(leastWatchableKbps({ ...picture, codec: 'h264' })).toBeCloseTo(138.24, 6)
    expect(leastWatchableKbps({ ...picture, codec: 'hevc' })).toBeCloseTo(138.24 / 1.4, 6)
  })

  it.each(casesOf(seeds, (seed) => seed % 4 === 0))(
    'is not planned on a line that is too short: smaller, or left out, seed %i',
    (seed) => {
      const show = randomShow(seed, {
        destinations: 1 + (seed % 6),
        grain: 'coarse',
        relay: seed % 3 === 0,
        recording: seed % 4 === 0,
      })
      expect(unwatchable(planned(show))).toEqual([])
    },
  )

  it('is what somebody gets who insists on a place for it', () => {
    const given = randomShow(13, { destinations: 2, grain: 'coarse' })
    const kept = (mustKeep: boolean): PlannedShow =>
      planned({
        ...given,
        destinations: given.destinations.map((each) => ({
          ...each,
          plan: { ...each.plan, mustKeep },
        })),
      })
    const isLeftOut = ({ destinations }: PlannedShow): boolean[] =>
      destinations.map(({ plan }) => plan.leftOut)
    expect(isLeftOut(kept(false))).toContain(true)
    expect(isLeftOut(kept(true))).not.toContain(true)
  })
})
