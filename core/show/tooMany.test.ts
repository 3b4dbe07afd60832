import { demoShow } from '@green-mantle/demo'
import { expect, it } from 'vitest'
import { mostOf } from './mostOf'
import { type Show, showSchema } from './show'
import { tooMany } from './tooMany'

const many = <Item extends object>(one: Item | undefined, count: number): Item[] =>
  Array.from({ length: count }, (_, index) => ({ ...one!, id: `many-${index}` }))
const { lines, destinations, scenes, rehearsal, runSheet } = demoShow
const incident = {
  ...{ kind: 'outage' as const, atSeconds: 0, durationSeconds: 1 },
} as unknown as Show['rehearsal']['incidents'][number]

/** A show with so many of each. */
const shows: Record<keyof typeof mostOf, (count: number) => Show> = {
  sources: (count) => ({ ...demoShow, sources: many(demoShow.sources[0], count) }),
  scenes: (count) => ({ ...demoShow, scenes: many(scenes[0], count) }),
  layers: (count) => ({
    ...demoShow,
    scenes: [{ ...scenes[0]!, layers: many(scenes[0]!.layers[0], count) }],
  }),
  sounds: (count) => ({ ...demoShow, sounds: many(demoShow.sounds[0], count) }),
  lines: (count) => ({ ...demoShow, lines: many(lines[0], count) }),
  otherTraffic: (count) => ({
    ...demoShow,
    lines: [{ ...lines[0]!, otherTraffic: many({ name: 'x', kbps: 1 }, count) as never }],
  }),
  destinations: (count) => ({ ...demoShow, destinations: many(destinations[0], count) }),
  coverZones: (count) => ({
    ...demoShow,
    destinations: [{ ...destinations[0]!, coverZones: many({}, count) as never }],
  }),
  recordings: (count) => ({ ...demoShow, recordings: many(demoShow.recordings[0], count) }),
  keptPlans: (count) => ({ ...demoShow, keptPlans: many({}, count) as never }),
  incidents: (count) => ({
    ...demoShow,
    rehearsal: { ...rehearsal, incidents: many(incident, count) },
  }),
  people: (count) => ({
    ...demoShow,
    runSheet: { ...runSheet, people: many(runSheet.people[0] ?? { name: 'Ines' }, count) as never },
  }),
}

it.each(Object.entries(mostOf) as [keyof typeof mostOf, number][])(
  'says that there are too many %s exactly where the schema does',
  (kind, most) => {
    expect(tooMany(shows[kind](most))).toBeNull()
    expect(tooMany(shows[kind](most + 1))).toMatch(new RegExp(`holds ${most} .* at most`))
    const isTooBig = (count: number): boolean =>
      showSchema
        .safeParse(shows[kind](count))
        .error?.issues.some(({ code }) => code === 'too_big') ?? false
    expect([isTooBig(most), isTooBig(most + 1)]).toEqual([false, true])
  },
)
