import { stat } from 'node:fs/promises'
import type { Happening, SenderState } from '@green-mantle/core/night'
import { freeDiskGigabytes } from '../measuring/freeDisk'
import { recordingSeconds } from './recordingLength'
import { isRoomToBegin, RecordingWatch, unrecordedWords } from './recordingWatch'

type Recorded = SenderState['recordings'][number]

/** The files that a sender records into, and how they are. */
export class Recordings {
  /** By file the name of the recording; one that began anew has several. */
  private readonly names = new Map<string, string>()
  private readonly watch = new RecordingWatch()

  constructor(private readonly folder: string) {}

  begin(file: string, name: string): void {
    this.names.set(file, name)
  }

  get list(): { name: string; file: string }[] {
    return [...this.names].map(([file, name]) => ({ name, file }))
  }

  files(): Promise<Recorded[]> {
    return Promise.all(
      this.list.map(async (each) => ({
        ...each,
        megabytes: await stat(each.file).then(
          ({ size }) => size / 1e6,
          () => 0,
        ),
      })),
    )
  }

  /** What of them needs attention now, in words. */
  async unrecorded(): Promise<string[]> {
    return this.watch.still(await this.current()).map(unrecordedWords)
  }

  /** What has just come to stand still, in words, and the names of those that could begin anew. */
  async look(): Promise<{ said: string[]; canBegin: ReadonlySet<string> }> {
    const current = await this.current()
    const said = this.watch.look(current).map(unrecordedWords)
    const still = this.watch.still(current)
    const isRoom =
      still.length > 0 && isRoomToBegin(await freeDiskGigabytes(this.folder).catch(() => null))
    return { said, canBegin: new Set(isRoom ? still.map(({ name }) => name) : []) }
  }

  /** One begins anew, in another file. */
  leave(names: ReadonlySet<string>): void {
    for (const { name, file } of this.list) if (names.has(name)) this.watch.forget(file)
  }

  /** What each came to, once it was closed. */
  async cameTo(): Promise<Happening[]> {
    const all: Happening[] = []
    for (const { name, file, megabytes } of await this.files()) {
      const seconds = await recordingSeconds(file)
      // It was written to its end just when it was closed.
      const closedAt = await stat(file).then(({ mtimeMs }) => mtimeMs, Date.now)
      all.push({
        ...{ kind: 'recorded', name, file, megabytes, seconds },
        startedAt: new Date(closedAt - (seconds ?? 0) * 1000).toISOString(),
      })
    }
    return all
  }

  /** Of each recording the file that is written now. */
  private async current(): Promise<Recorded[]> {
    return [...new Map((await this.files()).map((each) => [each.name, each])).values()]
  }
}
