import { mkdir, rm } from 'node:fs/promises'
import {
  type CanvasEncodes,
  canvasEncodesOf,
  type EncodedOutput,
  handedOver,
} from '@green-mantle/core/encoding'
import { canvasLane, encodeLane, splitByMaker } from '@green-mantle/core/on-air'
import {
  type CanvasInput,
  type Happening,
  noLineObserved,
  nothingObserved,
  observeLine,
  observeSend,
  type ObservedSend,
  type SenderState,
  type SendTarget,
} from '@green-mantle/core/night'
import type { CanvasName, Destination, Show } from '@green-mantle/core/show'
import { renditionInWords } from '@green-mantle/core/words'
import Flv from 'node-media-server/src/protocol/flv.js'
import type { UnderWay } from '../database/nights/underWayStore'
import { makeWorkFolder } from '../files/workFolders'
import { makeMediaClip } from '../pictures/mediaClip'
import { makeTestClip } from '../pictures/testClip'
import { CanvasFeed } from './canvasFeed'
import { carriedBy } from './carriedBy'
import { EncodeIngest } from './encodeIngest'
import { encodersTook } from './encodersTook'
import { cannotFrom, handedOn } from './handedOn'
import { keepLookBack, LookBack } from './lookBack'
import { LoweredSends } from './loweredSends'
import { OnAirCanvases } from './onAirCanvases'
import { recordingNames } from './recordingNames'
import { Recordings } from './recordings'
import { RelayedSend, type SendNews, type SendTotal } from './relayedSend'
import { type Ingest, pictureOf, soundOf } from './publisher'

export interface SenderOptions {
  show: Show
  target: SendTarget
  inputs: Readonly<Record<CanvasName, CanvasInput>>
  recordingsFolder: string
  /** The bytes of a person's own file, piece by piece. */
  pieces: (fileId: string) => AsyncIterable<Buffer>
  /** Where an output goes and with which key; opened for each connection anew. */
  ingestOf: (output: EncodedOutput, destination: Destination) => Promise<Ingest>
  /** Keeps what happens in the log of the night. */
  log: (happening: Happening) => void
}

interface OneSend {
  output: EncodedOutput
  destination: Destination
  relayed: RelayedSend
  /** Why it cannot be sent from here; empty where it can. */
  cannot: string
  observed: ObservedSend
}

interface OneCanvas {
  encodes: CanvasEncodes
  feed: CanvasFeed
  input: CanvasInput
  /** The file that is looped; null where a program draws it. */
  clip: string | null
  /** Under which key the program that draws it sends it here. */
  programKey: string
  /** Encoded by the on-air window, and passed on as it comes. */
  isPassedOn: boolean
}

interface AddedCanvas {
  input: CanvasInput
  clip: string | null
  recordingFile: ReturnType<typeof recordingNames>
  isPassedOn?: boolean
}

/** So much is held in memory, to be kept after something happened. */
const lookBackSeconds = 30
/** What a program sends may wait this long for the encoder. */
const maxWaitingBytes = 16_000_000
const [videoTag, keyframeFlag] = [9, 3]
const observedEverySeconds = 1
/** A computer that slept, or a program that was held up, has seen nothing meanwhile. */
const maxObservedSeconds = 5

const plannedKbpsOf = ({ rendition }: EncodedOutput): number =>
  rendition.videoBitrateKbps + rendition.audioBitrateKbps

const isGoing = ({ relayed }: Pick<OneSend, 'relayed'>): boolean =>
  !['ready', 'ended', 'given up'].includes(relayed.stage)

/** Carries the plan of a show out: one process a canvas, each encode once, each destination by itself. */
export class Sender {
  private readonly canvases: OneCanvas[] = []
  private readonly sends = new Map<string, OneSend>()
  private readonly recordings: Recordings
  /** What the on-air window draws. */
  readonly onAir: OnAirCanvases
  private readonly troubled = new Set<string>()
  /** Of each canvas the last seconds, as its first encode has them. */
  private readonly lookBacks = new Map<CanvasName, LookBack>()
  private lookingAtRecordings = Promise.resolve()
  private line = noLineObserved
  private readonly lowered = new LoweredSends()
  private readonly observing: ReturnType<typeof setInterval>
  private readonly observedSince = Date.now()
  private observedAt = performance.now()
  private isStopped = false

  private constructor(
    private readonly options: SenderOptions,
    private readonly ingest: EncodeIngest,
    private readonly folder: string,
  ) {
    this.recordings = new Recordings(options.recordingsFolder)
    this.onAir = new OnAirCanvases(options.log)
    this.observing = setInterval(() => this.observe(), observedEverySeconds * 1000)
    this.observing.unref()
  }

  /** Begins every encode and recording; nothing is sent yet. */
  static async begin(options: SenderOptions): Promise<Sender> {
    const folder = await makeWorkFolder('sender')
    let made: Sender | undefined
    try {
      made = new Sender(options, await EncodeIngest.open(), folder)
      await made.prepare()
      return made
    } catch (error) {
      await made?.stop()
      await rm(folder, { recursive: true, force: true })
      throw error
    }
  }

  private async prepare(): Promise<void> {
    const { show, inputs, recordingsFolder } = this.options
    await mkdir(recordingsFolder, { recursive: true })
    const recordingFile = recordingNames(recordingsFolder, show.title, new Date())
    for (const encodes of canvasEncodesOf(show)) {
      const input = inputs[encodes.canvas]
      const clip = await this.clipOf(input, encodes.canvas)
      const isOnAir = input === 'on-air window'
      const { byProgram, byWindow } = isOnAir
        ? splitByMaker(encodes)
        : { byProgram: encodes, byWindow: [] }
      const own = this.add(byProgram, { input, clip, recordingFile })
      if (isOnAir && own) this.onAir.add(canvasLane(show, encodes.canvas), own)
      for (const [index, one] of byWindow.entries()) {
        const passedOn = { input, clip, recordingFile, isPassedOn: true }
        const feed = this.add({ ...encodes, encodes: [one] }, passedOn)
        const sends = one.outputs.flatMap(({ key }) => this.sends.get(key)?.relayed ?? [])
        const lane = encodeLane(encodes.canvas, index + 1, one.encode)
        if (feed) this.onAir.add(lane, feed, this.lowered.add(sends))
      }
    }
  }

  /** One process with its outputs; null where there is nothing for it to do. */
  private add(
    encodes: CanvasEncodes,
    { input, clip, recordingFile, isPassedOn = false }: AddedCanvas,
  ): CanvasFeed | null {
    const plain = handedOn(encodes, input)
    const addresses = new Map<string, string>()
    for (const { outputs } of encodes.encodes)
      for (const output of outputs)
        if (!output.feed.isRecording) addresses.set(output.key, this.expectEncode(output))
    const feed = new CanvasFeed({
      canvas: plain,
      ...{ clip, inputForm: input === 'on-air window' ? 'matroska' : 'flv', isPassedOn },
      addressOf: (output, attempt) => {
        if (!output.feed.isRecording) return addresses.get(output.key) as string
        const file = recordingFile(output.feed, attempt)
        this.recordings.begin(file, output.feed.name)
        return file
      },
      onRestart: (words) =>
        this.options.log({
          kind: 'noted',
          text: `The encoder of the ${plain.canvas} canvas ended and is started again. ${words}`.trim(),
        }),
    })
    const programKey = input === 'own program' ? this.expectProgram(feed, plain.canvas) : ''
    if (plain.encodes.length === 0) return null
    this.canvases.push({ encodes: plain, feed, input, clip, programKey, isPassedOn })
    if (clip !== null) feed.start()
    return feed
  }

  /** What a canvas that no program draws is made of, as a file that is looped; null where one draws it. */
  private clipOf(input: CanvasInput, canvas: CanvasName): Promise<string | null> {
    const { folder, options } = this
    if (input === 'own program' || input === 'on-air window') return Promise.resolve(null)
    return input === 'test picture'
      ? makeTestClip(folder, options.show, canvas)
      : makeMediaClip(folder, options.show, canvas, options.pieces(input.fileId))
  }

  /** One encode of ours comes in here, and goes out to its ingest. */
  private expectEncode(output: EncodedOutput): string {
    const destination = this.options.show.destinations.find(
      ({ id }) => id === output.feed.ownerId,
    ) as Destination
    const relayed = new RelayedSend({
      sending: destination.sending,
      plannedKbps: plannedKbpsOf(output),
      picture: pictureOf(output),
      sound: soundOf(output),
      ingest: () => this.options.ingestOf(output, destination),
      told: (what, words) => this.told(output, destination, what, words),
    })
    this.sends.set(output.key, {
      ...{ output, destination, relayed, cannot: cannotFrom(output) },
      observed: nothingObserved,
    })
    const lookBack = this.lookBacks.has(destination.canvas) ? null : new LookBack(lookBackSeconds)
    if (lookBack) this.lookBacks.set(destination.canvas, lookBack)
    return this.ingest.expectEncode(handedOver(output), () => {
      relayed.encoderBegan()
      lookBack?.clear()
      return {
        packet: (packet) => {
          relayed.take(packet)
          lookBack?.take(packet)
        },
        bytes: () => {},
        // The encoder ended: when it comes back it is another one.
        ended: () => {},
      }
    })
  }

  /** The program that draws a canvas sends it here; its picture goes into the encoder as it comes. */
  private expectProgram(feed: CanvasFeed, canvas: CanvasName): string {
    let isComing = false
    let isTooSlow = false
    return this.ingest.expectProgram(() => {
      if (isComing) return 'another program sends this canvas already'
      if (this.isStopped) return 'nothing is sent from here any more'
      isComing = true
      feed.start()
      feed.input?.on('error', () => {})
      feed.input?.write(Flv.createHeader(true, true))
      return {
        packet: (packet) => {
          const { input } = feed
          if (!input?.writable) return
          // What the encoder does not get through is left out up to a keyframe: memory has an end.
          if (input.writableLength > maxWaitingBytes) isTooSlow = true
          const isKeyframe = packet.codec_type === videoTag && packet.flags === keyframeFlag
          if (isTooSlow && !(isKeyframe && input.writableLength < maxWaitingBytes / 4)) return
          isTooSlow = false
          input.write(Flv.createMessage(packet))
        },
        bytes: () => {},
        ended: (why) => {
          isComing = false
          void feed.stop()
          if (!this.isStopped)
            this.options.log({
              kind: 'noted',
              text: `Your program sends the ${canvas} canvas no longer: ${why}`,
            })
        },
      }
    })
  }

  private told(
    { feed, key }: EncodedOutput,
    { id, name }: Destination,
    what: SendNews,
    words: string,
  ): void {
    if (what === 'lowered' || what === 'full again') {
      const done =
        what === 'lowered' ? 'lowers its bitrate' : `is at its full bitrate again, after ${words}`
      this.options.log({ kind: 'noted', text: `${name} ${done}.` })
      return
    }
    const about = { destinationId: id, name }
    if (what === 'hung up' || what === 'given up') {
      if (!this.troubled.has(id))
        this.options.log({ kind: 'trouble', trouble: 'hung up', ...about })
      this.troubled.add(id)
      this.options.log({ kind: 'noted', text: `${name}: ${words}.` })
      const send = this.sends.get(key)
      const total = send?.relayed.total()
      if (what === 'given up' && send && total) this.keepWhatItCameTo(send, total)
      return
    }
    if (this.troubled.delete(id)) this.options.log({ kind: 'trouble over', ...about })
    else if (what === 'sending' && !feed.isBackup)
      this.options.log({
        kind: 'ticked',
        taskId: `send-${id}`,
        title: `Sending to ${name}`,
        knowingly: false,
      })
  }

  /** Begins to send to a destination, by all its ingests and steps; false where it has none here. */
  startSend(destinationId: string): boolean {
    const own = this.ownSends(destinationId)
    for (const { relayed } of own) relayed.start()
    return own.length > 0
  }

  stopSend(destinationId: string): boolean {
    const own = this.ownSends(destinationId)
    for (const send of own) this.end(send)
    return own.length > 0
  }

  /** Sees how every send is and what the line carries, once a second. */
  private observe(): void {
    const now = performance.now()
    const seconds = Math.min(maxObservedSeconds, (now - this.observedAt) / 1000)
    this.observedAt = now
    const seen = [...this.sends.values()].map((send) => {
      const state = send.relayed.snapshot()
      send.observed = observeSend(send.observed, state, seconds)
      return { ...state, destinationId: send.destination.id }
    })
    // Stand-ins are on this computer: what goes to them says nothing of the line.
    this.lookingAtRecordings = this.lookingAtRecordings
      .then(() => this.lookAtRecordings())
      .catch((error: unknown) => console.warn('The recordings could not be looked at.', error))
    if (this.options.target === 'destinations') this.line = observeLine(this.line, seen, seconds)
  }

  /**
   * A recording whose disk is full is left out, and said once; no send is taken along. With room again it
   * begins anew where nothing is sent of its canvas, since that takes an encoder of its own.
   */
  private async lookAtRecordings(): Promise<void> {
    if (this.isStopped) return
    const { said, canBegin } = await this.recordings.look()
    for (const text of said) this.options.log({ kind: 'noted', text })
    if (canBegin.size === 0) return
    for (const { feed, encodes } of this.canvases) {
      const isRecorded = encodes.encodes.some(({ outputs }) =>
        outputs.some((output) => output.feed.isRecording && canBegin.has(output.feed.name)),
      )
      const isSent = [...this.sends.values()].some(
        ({ destination, relayed }) => destination.canvas === encodes.canvas && isGoing({ relayed }),
      )
      if (!isRecorded || isSent) continue
      this.recordings.leave(canBegin)
      await feed.beginAnew()
    }
  }

  /** Ends one send and keeps what it came to. */
  private end(send: OneSend): void {
    const total = isGoing(send) ? send.relayed.total() : null
    send.relayed.stop()
    if (total) this.keepWhatItCameTo(send, total)
  }

  private keepWhatItCameTo(send: OneSend, total: SendTotal): void {
    const cameTo = this.cameTo(send, total)
    send.observed = nothingObserved
    this.options.log(cameTo)
  }

  private cameTo(
    { output, destination, relayed, observed }: OneSend,
    total: SendTotal,
  ): Extract<Happening, { kind: 'sent' }> {
    const { sentFrames, lostFrames, reconnects, isLossUnknown } = relayed.snapshot()
    const { awaySeconds, freezes, frozenSeconds } = observed
    return {
      kind: 'sent',
      ...{ destinationId: destination.id, name: destination.name, isBackup: output.feed.isBackup },
      ...{ ...total, plannedKbps: plannedKbpsOf(output), sentFrames, lostFrames, reconnects },
      ...(isLossUnknown ? { isLossUnknown } : {}),
      viewed: { awaySeconds, freezes, frozenSeconds },
    }
  }

  /** What would be told of it if it ended now. */
  underWay(): UnderWay {
    const { target, inputs } = this.options
    const sends = [...this.sends.values()].flatMap((send) => {
      const total = isGoing(send) ? send.relayed.total() : null
      return total ? [this.cameTo(send, total)] : []
    })
    return { sends, recordings: this.recordings.list, sending: { target, inputs: { ...inputs } } }
  }

  /** What the line carried, from which another show can learn. */
  private keepWhatWasLearnt(): void {
    const carried = carriedBy(this.line, this.observedSince)
    if (carried) this.options.log(carried)
  }

  /** Writes the last seconds of every canvas that is sent; the names of the files. */
  async keepLookBacks(): Promise<string[]> {
    const { show, recordingsFolder, log } = this.options
    const files: string[] = []
    for (const [canvas, lookBack] of this.lookBacks) {
      const file = await keepLookBack(lookBack, { canvas, title: show.title, recordingsFolder })
      if (file === null) continue
      const text = `Kept the last ${lookBack.seconds} s of the ${canvas} canvas: ${file}`
      log({ kind: 'noted', text })
      files.push(file)
    }
    return files
  }

  private ownSends(destinationId: string): OneSend[] {
    return [...this.sends.values()].filter(
      ({ destination, cannot }) => destination.id === destinationId && cannot === '',
    )
  }

  /** Ends all sends, then the encoders, so that recordings are closed. `measures`: what decoding and scaling take. */
  async stop({ measures = true } = {}): Promise<void> {
    if (this.isStopped) return
    this.isStopped = true
    clearInterval(this.observing)
    this.lowered.stop()
    this.onAir.stop()
    await this.lookingAtRecordings
    this.keepWhatWasLearnt()
    const { show, log } = this.options
    const whatEncodersTook = encodersTook(
      this.canvases.filter(({ isPassedOn }) => !isPassedOn),
      show,
      measures,
    )
    for (const send of this.sends.values()) this.end(send)
    await Promise.all(this.canvases.map(({ feed }) => feed.stop()))
    for (const each of await whatEncodersTook()) log(each)
    await this.ingest.close()
    await this.recordings
      .cameTo()
      .then((all) => all.forEach((each) => this.options.log(each)))
      .catch((error: unknown) => console.warn('The recordings could not be looked at.', error))
    await rm(this.folder, { recursive: true, force: true })
  }

  async state(): Promise<SenderState> {
    const sends = [...this.sends.values()].map(({ output, destination, relayed, cannot }) => ({
      ...relayed.snapshot(),
      plannedKbps: plannedKbpsOf(output),
      key: output.key,
      destinationId: destination.id,
      name: destination.name,
      canvas: destination.canvas,
      isBackup: output.feed.isBackup,
      cannot,
    }))
    const recordings = await this.recordings.files()
    const unrecorded = await this.recordings.unrecorded()
    return {
      canvases: this.canvases.map(({ encodes, feed, input, programKey, isPassedOn }) => ({
        canvas: encodes.canvas,
        input,
        encodes: encodes.encodes.map(({ encode }) => renditionInWords(encode.rendition)),
        isPassedOn,
        isRunning: feed.isRunning,
        speed: feed.speed(),
        restarts: feed.restarts,
        isStandby: this.onAir.isStandby(encodes.canvas),
        address: input === 'own program' ? this.ingest.programAddress : null,
        streamKey: input === 'own program' ? programKey : null,
      })),
      sends,
      recordings,
      unrecorded,
    }
  }
}
