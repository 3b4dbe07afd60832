import { writeCsv } from './csv'
import { z } from 'zod'
import {
  laneStates,
  lossCauses,
  type NightOutcome,
  type NightSummary,
  type NightTrace,
} from '../simulation'

export const nightFileFormat = 'green-mantle-night'
export const nightFileVersion = 2
export const nightFileExtension = '.night.json'

/** A night second by second, without what computes it. */
export type NightSeconds = Omit<NightTrace, 'tick' | 'line' | 'rest'>

const count = z.number().min(0)
const lost = z.strictObject({ line: count, computer: count, destination: count })

const nightFileShape = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal(nightFileFormat),
  version: z.literal(nightFileVersion),
  title: z.string(),
  seed: z.int(),
  /** The first is 1. */
  night: z.int().min(1),
  seconds: count,
  /** What each value of the lists stands for. */
  secondsAValue: z.int().min(1),
  /** What it carried at the least, kb/s. */
  lineKbps: z.array(count),
  sends: z.array(
    z.strictObject({
      name: z.string(),
      frames: z.strictObject({ made: count, delivered: count, waiting: count, lost }),
      awaySeconds: count,
      longestBehindSeconds: count,
      seenAfterSeconds: count,
      freezes: count,
      meanScore: count,
      sentKbps: z.array(count),
      states: z.array(z.enum(laneStates)),
    }),
  ),
  recordings: z.array(z.strictObject({ name: z.string(), made: count, lost })),
  events: z.array(
    z.strictObject({
      atSeconds: count,
      kind: z.string(),
      who: z.string(),
      cause: z.enum(lossCauses).nullable(),
      value: z.number(),
    }),
  ),
})

/** The JSON Schema (2020-12) of a night. */
export function nightFileJsonSchema(): object {
  return {
    ...z.toJSONSchema(nightFileShape, { target: 'draft-2020-12' }),
    title: 'A simulated Green Mantle night',
  }
}

interface Night {
  title: string
  seed: number
  outcome: NightOutcome
  seconds: NightSeconds
}

const rounded = (value: number): number => Math.round(value * 100) / 100

/** One night as open JSON: what became of each send, second by second, and what happened. */
export function writeNightFile({ title, seed, outcome, seconds }: Night): string {
  const names = new Map(outcome.sends.map(({ key, name }) => [key, name]))
  const file: z.infer<typeof nightFileShape> = {
    format: nightFileFormat,
    version: nightFileVersion,
    title,
    seed,
    night: outcome.night + 1,
    seconds: outcome.seconds,
    secondsAValue: seconds.secondsAPlace,
    lineKbps: [...seconds.capacityKbps].map(Math.round),
    sends: outcome.sends.map((send, index) => ({
      name: send.name,
      frames: {
        made: rounded(send.made),
        delivered: rounded(send.delivered),
        waiting: rounded(send.waiting),
        lost: {
          line: rounded(send.lost.line),
          computer: rounded(send.lost.computer),
          destination: rounded(send.lost.destination),
        },
      },
      awaySeconds: rounded(send.awaySeconds),
      longestBehindSeconds: rounded(send.longestBehindSeconds),
      seenAfterSeconds: rounded(send.seenAfterSeconds),
      freezes: send.freezes,
      meanScore: rounded(send.meanScore),
      sentKbps: [...(seconds.sentKbps[index] ?? [])].map(Math.round),
      states: [...(seconds.states[index] ?? [])].map((state) => laneStates[state] ?? 'steady'),
    })),
    recordings: outcome.recordings.map(({ name, made, lost: own }) => ({
      name,
      made: rounded(made),
      lost: own,
    })),
    events: outcome.events.map((event) => ({
      ...event,
      atSeconds: rounded(event.atSeconds),
      who: names.get(event.who) ?? event.who,
      value: rounded(event.value),
    })),
  }
  return `${JSON.stringify(nightFileShape.parse(file))}\n`
}

/** One night as CSV (RFC 4180): a row a send and second, or of a very long night every few seconds. */
export function writeNightCsv({ outcome, seconds }: Pick<Night, 'outcome' | 'seconds'>): string {
  const rows: (string | number)[][] = [
    [
      'Second',
      'Send',
      'Line (kb/s)',
      'Sent (kb/s)',
      'State',
      'Share of bitrate',
      'Wait (s)',
      'Lost frames',
    ],
  ]
  for (let place = 0; place < seconds.places; place += 1)
    outcome.sends.forEach(({ name }, index) => {
      rows.push([
        place * seconds.secondsAPlace,
        name,
        Math.round(seconds.capacityKbps[place] ?? 0),
        Math.round(seconds.sentKbps[index]?.[place] ?? 0),
        laneStates[seconds.states[index]?.[place] ?? 0] ?? 'steady',
        rounded(seconds.shares[index]?.[place] ?? 1),
        rounded(seconds.waitSeconds[index]?.[place] ?? 0),
        rounded(seconds.lostFrames[index]?.[place] ?? 0),
      ])
    })
  return writeCsv(rows)
}

/** Many nights as CSV (RFC 4180): a row a night, with the figures of each send. */
export function writeNightsCsv(nights: readonly NightSummary[], sends: readonly string[]): string {
  const header = [
    ...['Night', 'Clean', 'Because of', 'First to suffer'],
    ...sends.flatMap((name) => [
      `${name}: lost (%)`,
      `${name}: away (s)`,
      `${name}: behind (s)`,
      `${name}: score`,
    ]),
  ]
  const rows = [...nights]
    .sort((a, b) => a.night - b.night)
    .map((night) => [
      night.night + 1,
      night.isClean ? 'yes' : 'no',
      night.cause ?? '',
      night.who ?? '',
      ...sends.flatMap((_, index) => [
        rounded(100 * (night.lostShare[index] ?? 0)),
        rounded(night.awaySeconds[index] ?? 0),
        rounded(night.behindSeconds[index] ?? 0),
        rounded(night.score[index] ?? 0),
      ]),
    ])
  return writeCsv([header, ...rows])
}
