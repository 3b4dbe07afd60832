import type { MeasureWords } from '@green-mantle/core/canvas'
import {
  newSoundClock,
  type OnAirLane,
  resampled,
  type TriedOnAir,
} from '@green-mantle/core/on-air'
import {
  type CanvasName,
  canvasNames,
  onBoth,
  type Size,
  type Source,
} from '@green-mantle/core/show'
import { expose } from 'comlink'
import { encodeStill, newLaneEncoders } from '../onAir/laneEncoders'
import { fontFamilies } from '../pictures/fontFamilies'
import { paintCanvas } from '../onAir/paintPlacement'
import { newPictureSources } from '../onAir/pictureSources'
import { newShownCanvas, type ShownCanvas } from '../onAir/shownCanvas'
import { newOnAirSocket } from '../onAir/socket'
import type { DrawingState, DrawnScene, DrawnShow, LateReason } from '../onAir/wireTypes'

interface Surface {
  canvas: OffscreenCanvas
  context: OffscreenCanvasRenderingContext2D
  /** What the window shows of it. */
  shown: ShownCanvas
}
/** The blocks of sound that the graph of the window makes. */
export interface SoundBlock {
  frame: number
  live: Int16Array
  archive: Int16Array
}

const clock = (): number => performance.now()
const startedAt = clock()
const pictures = newPictureSources(clock)
const soundClock = newSoundClock()

let show: DrawnShow | undefined
let sources = new Map<string, Source>()
let scene: DrawnScene | undefined
let fading: { from: DrawnScene; since: number; milliseconds: number } | undefined
let isRunning = false
let problem = ''
let asked: readonly OnAirLane[] = []
/** Encoders whose pictures go nowhere. */
let trying: ReturnType<typeof newLaneEncoders> | undefined
const surfaces: Partial<Record<CanvasName, Surface>> = {}
const over = new OffscreenCanvas(2, 2)
const lastFrame: Record<CanvasName, number> = { landscape: -1, vertical: -1 }
const counted = { since: clock(), frames: onBoth(() => ({ drawn: 0, due: 0, late: 0 })) }
let lastSecond: DrawingState['frames'] = onBoth(() => ({ drawn: 0, due: 0, late: 0 }))
const lateInAll: Record<LateReason, number> = { drawing: 0, encoder: 0, connection: 0 }
let drawnInAll = 0

function late(canvas: CanvasName, reason: LateReason, count = 1): void {
  counted.frames[canvas].late += count
  lateInAll[reason] += count
}
const failed = (words: string): void => {
  problem = words
}
const socket = newOnAirSocket({ wanted: want })
const lanes = newLaneEncoders({
  picture({ canvas, lane }, picture) {
    if (!socket.send({ kind: 'picture', canvas, lane, ...picture })) late(canvas, 'connection')
  },
  failed,
})

const measuring = new OffscreenCanvas(1, 1).getContext('2d')
const measuredAt = 100
const widths = new Map<string, number>()
const measure: MeasureWords = (text, font, weight) => {
  const key = `${weight} ${font} ${text}`
  const known = widths.get(key)
  if (known !== undefined || !measuring) return known ?? text.length * 0.52
  measuring.font = `${weight} ${measuredAt}px "${fontFamilies[font]}"`
  const width = measuring.measureText(text).width / measuredAt
  widths.set(key, width)
  return width
}

function paint(
  context: OffscreenCanvasRenderingContext2D,
  name: CanvasName,
  drawn: DrawnScene,
): void {
  if (!show) return
  const { canvasPair, dressing } = show
  const layers = drawn.layers[name].filter(
    ({ sourceId }) => drawn.withoutDevice === 'card' || !pictures.isGone(sourceId),
  )
  paintCanvas(context, {
    ...{ name, size: canvasPair[name], layers, sources, dressing, measure },
    families: fontFamilies,
    pictureOf: (source) => pictures.pictureOf(source),
  })
}

/** What is on air now: one scene, or one that comes over the one before. */
function paintOnAir({ canvas, context }: Surface, name: CanvasName): void {
  if (!scene) return
  const share = fading ? Math.min(1, (clock() - fading.since) / fading.milliseconds) : 1
  if (!fading || share >= 1) return paint(context, name, scene)
  paint(context, name, fading.from)
  over.width = canvas.width
  over.height = canvas.height
  const above = over.getContext('2d')
  if (!above) return
  paint(above, name, scene)
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = share
  context.drawImage(over, 0, 0)
}

/** Draws what is due of both canvases, from the same state of everything. */
function drawDue(): void {
  if (!show || !scene) return
  const seconds = (clock() - startedAt) / 1000
  for (const name of canvasNames) {
    const surface = surfaces[name]
    if (!surface) continue
    const framesPerSecond = show.framesPerSecond[name]
    const index = Math.floor(seconds * framesPerSecond)
    if (index === lastFrame[name]) continue
    // Those between were due and are not drawn: the one before is shown for longer.
    const missed = lastFrame[name] < 0 ? 0 : index - lastFrame[name] - 1
    lastFrame[name] = index
    const own = counted.frames[name]
    own.due += missed + 1
    own.drawn += 1
    late(name, 'drawing', missed)
    drawnInAll += 1
    paintOnAir(surface, name)
    const drawn = { canvas: name, surface: surface.canvas, index, framesPerSecond }
    const leftOut = lanes.encode(drawn) + (trying?.encode(drawn) ?? 0)
    if (leftOut > 0) late(name, 'encoder')
    const isLate = lastSecond[name].late + own.late > 0
    surface.shown.show(surface.canvas, { index, framesPerSecond, isLate })
  }
  if (fading && clock() - fading.since >= fading.milliseconds) fading = undefined
  if (clock() - counted.since >= 1000) {
    lastSecond = counted.frames
    counted.frames = onBoth(() => ({ drawn: 0, due: 0, late: 0 }))
    counted.since = clock()
  }
}

/** Timers of workers go on at their pace when the window is behind others. */
function run(): void {
  if (!isRunning || !show) return
  drawDue()
  const every = Math.max(...canvasNames.map((name) => show?.framesPerSecond[name] ?? 0))
  const now = (clock() - startedAt) / 1000
  const next = (Math.floor(now * every) + 1) / every
  setTimeout(run, Math.max(0, (next - now) * 1000))
}

/** A piece of the standby scene, encoded beforehand, so that the server has it when this window is away. */
async function sendStandby(lane: OnAirLane): Promise<void> {
  const standby = show?.scenes.find(({ id }) => id === show?.standbySceneId)
  if (!show || !standby) return
  const { width, height } = show.canvasPair[lane.canvas]
  const canvas = new OffscreenCanvas(width, height)
  const context = canvas.getContext('2d')
  if (!context) return
  paint(context, lane.canvas, standby)
  await encodeStill(lane, canvas, {
    picture: (index, bytes) =>
      void socket.send({ kind: 'standby', canvas: lane.canvas, lane: lane.lane, index, bytes }),
    failed,
  })
}

async function sendStandbys(all: readonly OnAirLane[]): Promise<void> {
  for (const lane of all) await sendStandby(lane)
}

function want(wanted: readonly OnAirLane[]): void {
  asked = wanted
  if (show) void beginAll(lanes.want(wanted))
}
/** The standby scene goes before the picture that it is to stand in for: it is there from the first on. */
async function beginAll(fresh: readonly OnAirLane[]): Promise<void> {
  for (const lane of fresh) await sendStandby(lane).catch((error: Error) => failed(error.message))
  for (const lane of fresh) lanes.begin(lane)
}

/** Encodes for a while what is drawn, and hands nothing on. */
async function tryOut(wanted: readonly OnAirLane[], milliseconds: number): Promise<TriedOnAir> {
  const before = { drawn: drawnInAll, ...lateInAll }
  trying?.end()
  const own = newLaneEncoders({ picture: () => {}, failed })
  trying = own
  for (const lane of own.want(wanted)) own.begin(lane)
  await new Promise((resolve) => setTimeout(resolve, milliseconds))
  own.end()
  if (trying === own) trying = undefined
  return {
    drawn: drawnInAll - before.drawn,
    lateByDrawing: lateInAll.drawing - before.drawing,
    lateByEncoder: lateInAll.encoder - before.encoder,
  }
}

function takeSound({ frame, live, archive }: SoundBlock): void {
  if (lanes.wanted.length === 0) return
  const seconds = (clock() - startedAt) / 1000
  const { firstSample, count } = soundClock(frame, live.length / 2, seconds)
  for (const [mix, block] of [['live', live] as const, ['archive', archive] as const]) {
    const { buffer, byteOffset, byteLength } = resampled(block, count)
    socket.send({
      ...{ kind: 'sound', mix, firstSample },
      bytes: new Uint8Array(buffer, byteOffset, byteLength),
    })
  }
}

const worker = {
  async begin(
    canvases: Record<CanvasName, OffscreenCanvas>,
    fonts: { family: string; bytes: ArrayBuffer; descriptors: FontFaceDescriptors }[],
  ): Promise<void> {
    const set = (self as unknown as { fonts: FontFaceSet }).fonts
    await Promise.all(
      fonts.map(async ({ family, bytes, descriptors }) => {
        const face = new FontFace(family, bytes, descriptors)
        set.add(face)
        await face.load()
      }),
    )
    for (const name of canvasNames) {
      const canvas = new OffscreenCanvas(1, 1)
      const context = canvas.getContext('2d', { alpha: false })
      if (!context) throw new Error('This browser has no canvas in a worker.')
      surfaces[name] = { canvas, context, shown: newShownCanvas(canvases[name]) }
    }
    isRunning = true
    run()
  },
  setShow(next: DrawnShow): void {
    const wasStopped = show === undefined
    // What is being encoded keeps its size and rate to the end.
    show =
      show && lanes.wanted.length > 0
        ? { ...next, canvasPair: show.canvasPair, framesPerSecond: show.framesPerSecond }
        : next
    sources = new Map(next.sources.map((source) => [source.id, source]))
    for (const name of canvasNames) {
      const canvas = surfaces[name]?.canvas
      const { width, height } = show.canvasPair[name]
      // Set anew, it would be empty up to the next frame.
      if (!canvas || (canvas.width === width && canvas.height === height)) continue
      canvas.width = width
      canvas.height = height
    }
    scene = next.scenes.find(({ id }) => id === scene?.id) ?? next.scenes[0]
    void sendStandbys(lanes.wanted)
    if (!wasStopped) return
    want(asked)
    run()
  },
  /** Both canvases change in the same frame; over `milliseconds` where it fades. */
  setScene(id: string, milliseconds: number): void {
    const next = show?.scenes.find((each) => each.id === id)
    if (!next || next === scene) return
    fading = scene && milliseconds > 0 ? { from: scene, since: clock(), milliseconds } : undefined
    scene = next
  },
  setSeen: (name: CanvasName, size: Size | null): void => surfaces[name]?.shown.setSeen(size),
  setStill: (id: string, bitmap: ImageBitmap | null): void => pictures.setStill(id, bitmap),
  setFrames: (id: string, frames: ReadableStream<VideoFrame> | null): void =>
    pictures.setFrames(id, frames),
  takeSoundFrom(port: MessagePort): void {
    port.onmessage = ({ data }) => takeSound(data as SoundBlock)
  },
  tryOut,
  connect: (showId: string, takesOver: boolean): Promise<void> => socket.connect(showId, takesOver),
  state: (): DrawingState => ({
    frames: lastSecond,
    ...{ lateInAll, drawnInAll, problem: problem || socket.problem },
    ...{ connection: socket.connection, wanted: lanes.wanted },
  }),
  end(): void {
    isRunning = false
    lanes.end()
    trying?.end()
    pictures.end()
    socket.close()
  },
}
export type OnAirWorker = typeof worker
expose(worker)
