import {
  browserConfigOf,
  type BrowserEncoder,
  browserFrameAt,
  browserKinds,
  type BrowserRun,
} from '@green-mantle/core/measured'
import { codecs } from '@green-mantle/core/show'

/** A run counts what comes out over this long, once it has got going. */
const beginMilliseconds = 250
const countedMilliseconds = 750
/** What an encoder is handed before it has taken it; more only takes memory. */
const maxQueued = 6

type Spec = Omit<BrowserRun, 'atOnce'>

/** The encoders that the browser says it can open at a size. */
export async function browserEncoders(size: {
  width: number
  height: number
}): Promise<BrowserEncoder[]> {
  const found: BrowserEncoder[] = []
  for (const kind of browserKinds)
    for (const codec of codecs) {
      const config = browserConfigOf({ kind, codec, effort: 'balanced', ...size })
      const answer = await VideoEncoder.isConfigSupported(config).catch(() => null)
      if (answer?.supported) found.push({ kind, codec })
    }
  return found
}

/** One encoder that is kept busy until it is ended; `refused` resolves if it fails. */
function busyEncoder(spec: Spec, pictures: readonly VideoFrame[]) {
  let made = 0
  let isOver = false
  let refuse: () => void = () => {}
  const refused = new Promise<void>((resolve) => (refuse = resolve))
  let wake: () => void = () => {}
  const encoder = new VideoEncoder({
    output: () => (made += 1),
    error: () => {
      isOver = true
      refuse()
      wake()
    },
  })
  encoder.ondequeue = () => wake()
  async function feed(): Promise<void> {
    try {
      encoder.configure(browserConfigOf(spec))
      for (let index = 0; !isOver; index += 1) {
        const picture = pictures[index % pictures.length] as VideoFrame
        const { timestamp, keyFrame } = browserFrameAt(index)
        const frame = new VideoFrame(picture, { timestamp })
        encoder.encode(frame, { keyFrame })
        frame.close()
        while (encoder.encodeQueueSize >= maxQueued && !isOver)
          await new Promise<void>((resolve) => (wake = resolve))
      }
    } catch {
      refuse()
    }
  }
  const going = feed()
  return {
    refused,
    made: () => made,
    async end() {
      isOver = true
      wake()
      if (encoder.state !== 'closed') encoder.close()
      await going
    },
  }
}

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds))

/** Frames a second of so many alike at once, together; null where one of them was refused or made nothing. */
export async function runAtOnce(
  { atOnce, ...spec }: BrowserRun,
  pictures: readonly VideoFrame[],
): Promise<number | null> {
  const encoders = Array.from({ length: atOnce }, () => busyEncoder(spec, pictures))
  try {
    const refused = Promise.race(encoders.map((encoder) => encoder.refused)).then(() => true)
    const over = (milliseconds: number): Promise<boolean> =>
      Promise.race([refused, pause(milliseconds).then(() => false)])
    if (await over(beginMilliseconds)) return null
    const counts = encoders.map(({ made }) => made())
    const began = performance.now()
    if (await over(countedMilliseconds)) return null
    const seconds = (performance.now() - began) / 1000
    const made = encoders.map((encoder, index) => encoder.made() - (counts[index] ?? 0))
    return made.some((frames) => frames === 0)
      ? null
      : made.reduce((sum, frames) => sum + frames, 0) / seconds
  } finally {
    await Promise.all(encoders.map((encoder) => encoder.end()))
  }
}
