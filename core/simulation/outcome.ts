import type { CleanLimits } from '../show'

export const lossCauses = ['line', 'computer', 'destination'] as const
/** Every frame that is lost is lost for one of these. */
export type LossCause = (typeof lossCauses)[number]

/** What became of one send; frames are conserved: made = delivered + waiting + lost. */
export interface SendOutcome {
  key: string
  name: string
  destinationId: string
  made: number
  delivered: number
  waiting: number
  lost: Record<LossCause, number>
  /** Lost where the other ingest of the same destination lost it too; the same as lost where there is none. */
  lostToViewers: number
  awaySeconds: number
  longestBehindSeconds: number
  /** How long after it happened viewers saw it at the latest: lag of the destination, player and wait. */
  seenAfterSeconds: number
  freezes: number
  /** The least share of its bitrate that it was lowered to, 1 = never lowered. */
  minShare: number
  meanScore: number
}

export interface RecordingOutcome {
  id: string
  name: string
  made: number
  lost: Record<LossCause, number>
}

export const eventKinds = [
  'lowers',
  'full again',
  'drops',
  'sends again',
  'gone',
  'back',
  'given up',
  'start again',
  'overloaded',
  'keeps up again',
  'disk full',
] as const
/** Something that happened in a night, to a send, a device or a recording. */
export interface NightEvent {
  atSeconds: number
  kind: (typeof eventKinds)[number]
  /** The send's key, or the name of a device or recording. */
  who: string
  cause: LossCause | null
  /** Frames lost until it was over, or the share that was left. */
  value: number
}

export interface NightOutcome {
  night: number
  seconds: number
  sends: SendOutcome[]
  recordings: RecordingOutcome[]
  /** How full each device was at most, 1 = all of it. */
  maxLoad: number[]
  events: NightEvent[]
  /** How many more there were than are kept. */
  eventsLeftOut: number
  firstLoss: { atSeconds: number; cause: LossCause; who: string } | null
}

/** All frames of one send that were lost. */
export const lostOf = ({ lost }: Pick<SendOutcome | RecordingOutcome, 'lost'>): number =>
  lost.line + lost.computer + lost.destination

/** Who does not keep to what a clean night allows; two may have one name. */
export function sufferersOf(
  { sends, recordings }: Pick<NightOutcome, 'sends' | 'recordings'>,
  clean: CleanLimits,
): { sends: SendOutcome[]; recordings: RecordingOutcome[] } {
  const share = clean.lostPercent / 100
  return {
    sends: sends.filter(
      ({ made, lostToViewers, awaySeconds, longestBehindSeconds }) =>
        lostToViewers > share * made + 1e-9 ||
        awaySeconds > clean.awaySeconds + 1e-9 ||
        longestBehindSeconds > clean.behindSeconds + 1e-9,
    ),
    recordings: recordings.filter((recording) => lostOf(recording) > share * recording.made + 1e-9),
  }
}

/** Whether nobody lost, lagged or was away more than the show allows. */
export function isClean(
  outcome: Pick<NightOutcome, 'sends' | 'recordings'>,
  clean: CleanLimits,
): boolean {
  const { sends, recordings } = sufferersOf(outcome, clean)
  return sends.length + recordings.length === 0
}
