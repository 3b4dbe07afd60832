import { matroskaBlocks, matroskaHead } from '@green-mantle/core/encoding'
import {
  configurationRecord,
  lengthPrefixed,
  newTimeline,
  onAirSound,
  type OnAirMessage,
  type OutPiece,
  unitsOf,
} from '@green-mantle/core/on-air'
import type { Size } from '@green-mantle/core/show'
import type { CanvasFeed } from './canvasFeed'

/** What the encoder does not get through waits at most like this; then whole groups are left out. */
const maxWaitingBytes = 24_000_000

/** The places of what is written: one picture and two mixes. */
const trackOf = { picture: 1, live: 2, archive: 3 } as const
const mixTrack = {
  kind: 'uncompressed sound',
  sampleRateHz: onAirSound.sampleRateHz,
  channels: onAirSound.channels,
  bitsASample: 8 * onAirSound.bytesASample,
} as const

export interface OnAirCanvasOptions {
  feed: Pick<CanvasFeed, 'input' | 'start'>
  size: Size
  framesPerSecond: number
  clock?: () => number
  /** Said once when it begins, and when it is over. */
  told: (what: 'standby' | 'back' | 'too slow') => void
}

/**
 * One canvas from the on-air window into the encoder: one stream that goes on with the standby scene where
 * the window does not, and that a window joins again at a keyframe.
 */
export class OnAirCanvas {
  private readonly timeline
  private readonly clock: () => number
  /** Into which of the encoder's inputs it is written: another one has to be begun anew. */
  private openInput: CanvasFeed['input'] = null
  private block = matroskaBlocks()
  private isTooSlow = false
  private wasStandby = false
  /** Pictures left out since the encoder had too much. */
  leftOut = 0

  constructor(private readonly options: OnAirCanvasOptions) {
    this.timeline = newTimeline(options.framesPerSecond)
    this.clock = options.clock ?? (() => performance.now())
  }

  get isStandby(): boolean {
    return this.timeline.isStandby
  }
  get hasBegun(): boolean {
    return this.timeline.hasBegun
  }

  take(message: OnAirMessage): void {
    if (message.kind === 'standby') this.timeline.keepStandby(message.index, message.bytes)
    else if (message.kind === 'sound') this.write(this.timeline.sound(message))
    else this.write(this.timeline.picture(message, this.clock()))
    this.tell()
  }

  /** What is due although nothing came; to be called several times a second. */
  tick(): void {
    this.write(this.timeline.tick(this.clock()))
    this.tell()
  }

  /** The window is gone: another one joins anew. */
  left(): void {
    this.timeline.left()
  }

  private tell(): void {
    if (this.timeline.isStandby === this.wasStandby) return
    this.wasStandby = this.timeline.isStandby
    this.options.told(this.wasStandby ? 'standby' : 'back')
  }

  private write(pieces: readonly OutPiece[]): void {
    for (const piece of pieces) {
      if (piece.kind === 'picture') this.writePicture(piece)
      else
        this.put({
          track: trackOf[piece.mix],
          isKey: true,
          ...{ atMilliseconds: piece.atMilliseconds, bytes: piece.bytes },
        })
    }
  }

  private writePicture(piece: Extract<OutPiece, { kind: 'picture' }>): void {
    const units = unitsOf(piece.bytes)
    if (piece.isKey && !this.isOpen() && !this.begin(units)) return
    this.put({
      track: trackOf.picture,
      isKey: piece.isKey,
      ...{ atMilliseconds: piece.atMilliseconds, bytes: lengthPrefixed(units) },
    })
  }

  private isOpen(): boolean {
    const { input } = this.options.feed
    return input !== null && input === this.openInput && input.writable
  }

  /** Starts the encoder where it does not run, and writes the head of the stream; false where the keyframe is none. */
  private begin(units: readonly Uint8Array[]): boolean {
    const { feed, size, framesPerSecond } = this.options
    const configuration = configurationRecord(units)
    if (!configuration) return false
    if (!feed.input?.writable) feed.start()
    const { input } = feed
    if (!input) return false
    input.on('error', () => {})
    this.openInput = input
    this.block = matroskaBlocks()
    this.isTooSlow = false
    const picture = {
      kind: 'picture',
      codec: 'h264',
      size,
      framesPerSecond,
      configuration,
    } as const
    input.write(matroskaHead([picture, mixTrack, mixTrack]))
    return true
  }

  private put(block: Parameters<ReturnType<typeof matroskaBlocks>>[0]): void {
    const { input } = this.options.feed
    if (!input || !this.isOpen()) return
    const isPicture = block.track === trackOf.picture
    if (input.writableLength > maxWaitingBytes && !this.isTooSlow) {
      this.isTooSlow = true
      this.options.told('too slow')
    }
    if (this.isTooSlow) {
      const mayGoOn = isPicture && block.isKey && input.writableLength < maxWaitingBytes / 4
      if (!mayGoOn) {
        if (isPicture) this.leftOut += 1
        return
      }
      this.isTooSlow = false
    }
    input.write(this.block(block))
  }
}
