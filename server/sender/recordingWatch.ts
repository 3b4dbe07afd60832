/** A file that is written grows every second; one that has not for so long is not written any more. */
const standsStillAfterSeconds = 8
/** With less than this a recording would end again at once. */
const roomToBeginGigabytes = 0.5

export interface WatchedRecording {
  name: string
  file: string
  megabytes: number
}

interface Seen {
  megabytes: number
  grewAt: number
  isStill: boolean
}

/** Sees which recordings are written no more, each said once, and when there is room to begin again. */
export class RecordingWatch {
  private readonly seen = new Map<string, Seen>()

  /** By a clock that nobody sets. */
  constructor(private readonly seconds: () => number = () => performance.now() / 1000) {}

  /** Takes up how large they are; those that have just come to stand still. */
  look(recordings: readonly WatchedRecording[]): WatchedRecording[] {
    const now = this.seconds()
    return recordings.filter(({ file, megabytes }) => {
      const before = this.seen.get(file)
      const grew = !before || megabytes > before.megabytes
      const grewAt = grew ? now : before.grewAt
      const isStill = now - grewAt >= standsStillAfterSeconds
      this.seen.set(file, { megabytes, grewAt, isStill })
      return isStill && !before?.isStill
    })
  }

  /** Those that stand still now. */
  still(recordings: readonly WatchedRecording[]): WatchedRecording[] {
    return recordings.filter(({ file }) => this.seen.get(file)?.isStill)
  }

  /** Of a file that was left for another one nothing is to be seen any more. */
  forget(file: string): void {
    this.seen.delete(file)
  }
}

export const isRoomToBegin = (freeGigabytes: number | null): boolean =>
  freeGigabytes !== null && freeGigabytes >= roomToBeginGigabytes

/** What is said of one that stands still. */
export const unrecordedWords = ({ name, megabytes }: WatchedRecording): string =>
  `${name} is not recorded any more, at ${Math.round(megabytes)} MB: its disk is full or gone. What is sent goes on.`
