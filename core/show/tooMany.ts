import { mostOf } from './mostOf'
import type { Show } from './show'

type Countable = Pick<
  Show,
  | 'sources'
  | 'scenes'
  | 'sounds'
  | 'lines'
  | 'destinations'
  | 'recordings'
  | 'keptPlans'
  | 'rehearsal'
  | 'runSheet'
>

const names: Record<keyof typeof mostOf, string> = {
  sources: 'A show holds {most} sources',
  scenes: 'A show holds {most} scenes',
  layers: 'A scene holds {most} layers',
  sounds: 'A show holds {most} sounds',
  lines: 'A show holds {most} lines',
  otherTraffic: 'A line holds {most} entries of other traffic',
  destinations: 'A show holds {most} destinations',
  coverZones: 'A destination holds {most} cover zones',
  recordings: 'A show holds {most} recordings',
  keptPlans: 'A show holds {most} kept plans',
  incidents: 'A rehearsal holds {most} incidents',
  people: 'A run sheet holds {most} people',
}

const longest = (lists: readonly (readonly unknown[])[]): number =>
  Math.max(0, ...lists.map(({ length }) => length))

/** Of what a show holds more than can be kept, in a person's words; null where it holds no more. */
export function tooMany(show: Countable): string | null {
  const counts: Record<keyof typeof mostOf, number> = {
    sources: show.sources.length,
    scenes: show.scenes.length,
    layers: longest(show.scenes.map(({ layers }) => layers)),
    sounds: show.sounds.length,
    lines: show.lines.length,
    otherTraffic: longest(show.lines.map(({ otherTraffic }) => otherTraffic)),
    destinations: show.destinations.length,
    coverZones: longest(show.destinations.map(({ coverZones }) => coverZones)),
    recordings: show.recordings.length,
    keptPlans: show.keptPlans.length,
    incidents: show.rehearsal.incidents.length,
    people: show.runSheet.people.length,
  }
  const kinds = Object.keys(counts) as (keyof typeof mostOf)[]
  const full = kinds.find((kind) => counts[kind] > mostOf[kind])
  return full === undefined
    ? null
    : `${names[full].replace('{most}', `${mostOf[full]}`)} at most. Nothing was changed; remove one first.`
}
