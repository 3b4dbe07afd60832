import type { Sending } from '@green-mantle/core/show'
import { type Lowering, neverLowered, nextShare } from '@green-mantle/core/simulation'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import type { Ingest, Publisher, SentPicture, SentSound } from './publisher'
import { GoneOut } from './goneOut'
import { publishOverRtmp } from './rtmpPublisher'
import { publishOverSrt } from './srtPublisher'
import { publishOverWhip } from './whipPublisher'

export type RelayedStage = 'ready' | 'connecting' | 'sending' | 'away' | 'given up' | 'ended'

/** What is known of one send as it goes. */
export interface RelayedState {
  stage: RelayedStage
  /** Why it is away or was given up; empty while all is well. */
  words: string
  kbps: number
  sentFrames: number
  lostFrames: number
  /** The share of its planned bitrate that its encode makes now. */
  share: number
  behindSeconds: number
  /** Since the last frame that went out; 0 before the first, and once it is over. */
  stillSeconds: number
  /** How often it came back. */
  reconnects: number
  sendingSince: string | null
  /** Whether the line lets less of it through than was handed over, as over SRT. */
  losesOnLine: boolean
  /** Whether what the line loses of it is not seen here. */
  isLossUnknown: boolean
}

export type SendNews = 'sending' | 'back' | 'hung up' | 'given up' | 'lowered' | 'full again'

/** What a send came to. */
export interface SendTotal {
  seconds: number
  meanKbps: number
}

export interface RelayedSendOptions {
  sending: Sending
  /** What it takes of the line as planned; how long what waits will take is told from it. */
  plannedKbps: number
  picture: SentPicture
  sound: SentSound
  /** Opened for the send alone, each time anew. */
  ingest: () => Promise<Ingest>
  /** Said as it happens. */
  told: (what: SendNews, words: string) => void
  /** How it is sent; by the protocol of the ingest, where nothing is said. */
  publish?: typeof publishTo
}

const flag = { audioHead: 0, videoHead: 2, keyframe: 3, frame: 4 } as const
const [videoTag, dataTag] = [9, 18]
/** A held send waits this long, then it drops as well: memory has an end. */
const longestHoldSeconds = 60
const rateWindowMilliseconds = 2000
/** Less of a window says little of what gets there: it is acknowledged a round trip later. */
const settledMilliseconds = 1000
/** A line that lets less than this share through is short. */
const noticeablyLess = 0.9

const nothingSent: RelayedState = {
  ...{ stage: 'ready', words: '', kbps: 0, sentFrames: 0, lostFrames: 0 },
  ...{ share: 1, behindSeconds: 0, stillSeconds: 0, reconnects: 0, sendingSince: null },
  ...{ losesOnLine: false, isLossUnknown: false },
}

function publishTo(
  ingest: Ingest,
  { picture, sound, plannedKbps }: RelayedSendOptions,
  signal: AbortSignal,
): Promise<Publisher> {
  if (ingest.address.startsWith('srt:')) return publishOverSrt(ingest, { picture, sound }, signal)
  return /^https?:/.test(ingest.address)
    ? publishOverWhip(ingest, sound, { kbps: plannedKbps, signal })
    : publishOverRtmp(ingest, signal, picture.codec)
}

const isDropped = ({ codec_type: type, flags }: MediaPacket): boolean =>
  type === videoTag && (flags === flag.keyframe || flags === flag.frame)

/**
 * Passes one encode on to one ingest: begins at a keyframe with what a decoder needs, drops whole frames
 * up to the next keyframe where too much waits, and comes back as the plan says. Whatever happens to it
 * touches no other send.
 */
export class RelayedSend {
  private readonly heads = new Map<string, MediaPacket>()
  private publisher: Publisher | null = null
  private stopper = new AbortController()
  private retry: ReturnType<typeof setTimeout> | undefined
  private isWanted = false
  private waitsForKeyframe = true
  private tries = 0
  /** Raised by every begin, so that what was begun before it is known to be over. */
  private generation = 0
  private lastMilliseconds = 0
  private unacceptedFrames = 0
  /** What went out over the connections that are over. */
  private earlierBytes = 0
  /** By a clock that nobody sets: when it was first taken, and when it was over. */
  private acceptedAt = 0
  private endedAt: number | null = null
  private readonly goneOut = new GoneOut()
  private lowering: Lowering = neverLowered()
  private leastShare = 1
  private askedAt = performance.now() / 1000
  private rates: { at: number; bytes: number; handedBytes: number }[] = []
  /** Frames that the line lost of connections that are over, and how many had been sent when this one began. */
  private earlierLineLost = 0
  private framesBefore = 0
  private state: RelayedState = { ...nothingSent }

  constructor(private readonly options: RelayedSendOptions) {}

  get stage(): RelayedStage {
    return this.state.stage
  }

  /** The share of its planned bitrate that is wanted of its encode. */
  get share(): number {
    return this.lowering.share
  }

  /** Lowers and raises what is wanted of its encode by what waits, as a night is simulated; to be called several times a second. */
  lower(): void {
    const now = performance.now() / 1000
    const seconds = now - this.askedAt
    this.askedAt = now
    if (this.state.stage !== 'sending') {
      this.lowering = neverLowered()
      return
    }
    const was = this.lowering.share
    const waitSeconds = this.behindSeconds()
    const share = nextShare(this.lowering, this.options.sending, { waitSeconds, seconds, now })
    this.lowering.share = share
    if (was === 1) this.leastShare = 1
    this.leastShare = Math.min(this.leastShare, share)
    if (share < was && was === 1) this.options.told('lowered', '')
    else if (share === 1 && was < 1)
      this.options.told('full again', `${Math.round(100 * this.leastShare)} %`)
  }

  snapshot(): RelayedState {
    const kbps = this.kbps()
    const lineLost = Math.min(this.state.sentFrames, this.lineLostFrames())
    return {
      ...this.state,
      kbps,
      sentFrames: this.state.sentFrames - lineLost,
      lostFrames: this.state.lostFrames + lineLost,
      share: this.lowering.share,
      losesOnLine: this.losesOnLine(),
      behindSeconds: this.state.stage === 'sending' ? this.behindSeconds() : 0,
      stillSeconds: this.isWanted ? this.goneOut.stillSeconds() : 0,
    }
  }

  /** What it came to since it began; null where it never did. */
  total(): SendTotal | null {
    const { sendingSince } = this.state
    if (sendingSince === null) return null
    const until = this.endedAt ?? performance.now()
    const seconds = Math.max(0.001, (until - this.acceptedAt) / 1000)
    const bytes = this.earlierBytes + this.arrivedBytes()
    return { seconds, meanKbps: (bytes * 8) / 1000 / seconds }
  }

  /** Begins to send, and to count, anew; what is on its way stays as it is. */
  start(): void {
    if (this.isWanted) return
    this.isWanted = true
    this.tries = 0
    this.state = { ...nothingSent }
    this.unacceptedFrames = 0
    this.goneOut.clear()
    this.earlierBytes = 0
    this.earlierLineLost = 0
    this.framesBefore = 0
    this.endedAt = null
    this.generation += 1
    this.stopper = new AbortController()
    void this.connect()
  }

  stop(): void {
    const was = this.isWanted
    this.isWanted = false
    clearTimeout(this.retry)
    if (was) this.endedAt = performance.now()
    // What was written goes out; then the connection ends.
    this.letGo()
    if (this.state.stage === 'connecting') this.stopper.abort()
    if (was) this.state = { ...this.state, stage: 'ended', words: '' }
  }

  /** The encoder began anew: its times begin anew too, so that the ingest has to. */
  encoderBegan(): void {
    // Before the first one nothing was sent, and nothing has to begin anew.
    const isAnother = this.heads.size > 0
    this.heads.clear()
    if (isAnother && this.publisher) this.dropConnection()
  }

  private letGo(): void {
    const { publisher } = this
    this.countConnection()
    publisher?.close()
  }

  /** Keeps what a connection that is over came to. */
  private countConnection(): void {
    this.earlierBytes += this.arrivedBytes()
    this.earlierLineLost = this.lineLostFrames()
    this.framesBefore = this.state.sentFrames
    this.publisher = null
  }

  /** What of this connection got through the line, as far as that is seen. */
  private arrivedBytes(): number {
    const { publisher } = this
    return publisher ? publisher.sentBytes * (publisher.onLine?.().arrivedShare ?? 1) : 0
  }

  private lineLostFrames(): number {
    const share = this.publisher?.onLine?.().lostShare ?? 0
    const frames = Math.max(0, this.state.sentFrames - this.framesBefore)
    return this.earlierLineLost + Math.round(share * frames)
  }

  /** Whether over the last seconds clearly less got there than was handed over. */
  private losesOnLine(): boolean {
    const [first, last] = [this.rates[0], this.rates.at(-1)]
    if (!this.publisher?.onLine || !first || !last || last.at - first.at < settledMilliseconds)
      return false
    const handed = last.handedBytes - first.handedBytes
    return last.bytes - first.bytes < noticeablyLess * handed
  }

  private dropConnection(): void {
    this.letGo()
    if (this.isWanted) void this.connect()
  }

  take(packet: MediaPacket): void {
    const { codec_type: type, flags } = packet
    const isHead =
      type === dataTag || flags === (type === videoTag ? flag.videoHead : flag.audioHead)
    if (isHead)
      this.heads.set(`${type}`, {
        ...packet,
        data: Buffer.from(packet.data.subarray(0, packet.size)),
      })
    this.lastMilliseconds = packet.dts
    const { publisher } = this
    if (!publisher) {
      if (this.isWanted && this.state.sendingSince && isDropped(packet)) this.state.lostFrames += 1
      return
    }
    if (isHead) return publisher.take(packet)
    if (this.waitsForKeyframe) {
      if (flags !== flag.keyframe || type !== videoTag || this.isTooFarBehind(0.5)) {
        // Before its first keyframe nothing was begun that could lose a frame.
        if (isDropped(packet) && this.state.sentFrames > 0) this.state.lostFrames += 1
        return
      }
      this.waitsForKeyframe = false
    } else if (isDropped(packet) && this.isTooFarBehind(1)) {
      this.waitsForKeyframe = true
      this.state.lostFrames += 1
      return
    }
    publisher.take(packet)
    if (!isDropped(packet)) return
    this.goneOut.handedOver(publisher)
    if (this.state.stage === 'sending') this.state.sentFrames += 1
    else this.unacceptedFrames += 1
  }

  private isTooFarBehind(share: number): boolean {
    const { whenBehind, mostWaitSeconds } = this.options.sending
    const most = whenBehind === 'hold' ? longestHoldSeconds : mostWaitSeconds
    return this.behindSeconds() > most * share
  }

  private behindSeconds(): number {
    const waiting = this.publisher?.waitingBytes ?? 0
    return (waiting * 8) / 1000 / Math.max(1, this.options.plannedKbps * this.lowering.share)
  }

  /** What has gone out over the last seconds. */
  private kbps(): number {
    const now = performance.now()
    const bytes = this.arrivedBytes()
    const handedBytes = this.publisher?.sentBytes ?? 0
    if (!this.publisher) {
      this.rates = []
      return 0
    }
    this.rates = [
      ...this.rates.filter(({ at }) => at > now - rateWindowMilliseconds),
      { at: now, bytes, handedBytes },
    ]
    const [first] = this.rates
    if (!first || now - first.at < 200) return this.state.kbps
    this.state.kbps = Math.round(((bytes - first.bytes) * 8) / (now - first.at))
    return this.state.kbps
  }

  private async connect(): Promise<void> {
    const { signal } = this.stopper
    const { generation } = this
    const isOver = (): boolean => signal.aborted || !this.isWanted || this.generation !== generation
    const isBack = this.state.sendingSince !== null
    this.state = { ...this.state, stage: isBack ? 'away' : 'connecting' }
    try {
      const ingest = await this.options.ingest()
      const { publish = publishTo } = this.options
      const publisher = await publish(ingest, this.options, signal)
      if (isOver()) return publisher.close()
      this.rates = []
      this.waitsForKeyframe = true
      for (const head of this.heads.values())
        publisher.take({ ...head, dts: this.lastMilliseconds })
      this.publisher = publisher
      this.state.isLossUnknown = ingest.address.startsWith('srt:') && !publisher.onLine
      this.goneOut.connected()
      const isAccepted = await publisher.accepted
      if (this.publisher !== publisher) return
      if (isAccepted) this.wasAccepted(isBack)
      const why = await publisher.ended
      if (this.publisher !== publisher) return
      this.countConnection()
      this.countUnaccepted('lostFrames')
      if (isAccepted) this.options.told('hung up', why)
      this.later(why)
    } catch (error) {
      if (!isOver()) this.later((error as Error).message)
    }
  }

  private wasAccepted(isBack: boolean): void {
    this.tries = 0
    if (this.state.sendingSince === null) this.acceptedAt = performance.now()
    this.state = {
      ...this.state,
      ...{ stage: 'sending', words: '', reconnects: this.state.reconnects + (isBack ? 1 : 0) },
      sendingSince: this.state.sendingSince ?? new Date().toISOString(),
    }
    this.countUnaccepted('sentFrames')
    this.options.told(isBack ? 'back' : 'sending', '')
  }

  /** What was handed over before it was known whether it would be taken; a send that never began loses nothing. */
  private countUnaccepted(as: 'sentFrames' | 'lostFrames'): void {
    if (this.state.sendingSince) this.state[as] += this.unacceptedFrames
    this.unacceptedFrames = 0
  }

  private later(words: string): void {
    const { reconnectAfterSeconds, reconnectTries } = this.options.sending
    if (this.tries >= reconnectTries) {
      this.isWanted = false
      this.endedAt = performance.now()
      this.state = { ...this.state, stage: 'given up', words }
      this.options.told('given up', words)
      return
    }
    this.tries += 1
    this.state = { ...this.state, stage: this.state.sendingSince ? 'away' : 'connecting', words }
    this.retry = setTimeout(() => void this.connect(), reconnectAfterSeconds * 1000)
    this.retry.unref()
  }
}
