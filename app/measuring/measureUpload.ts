import {
  nextTransferBytes,
  percentile,
  sampleSeconds,
  type Transfer,
  transferLimits,
  transferRates,
  warmUpSeconds,
} from '@green-mantle/core/network'
import {
  beginMeasurement,
  echo,
  endMeasurement,
  type MeasurementRequest,
  sendBytes,
} from '~/api/line'

export interface MeasuredRates {
  roundTripMilliseconds: number
  /** The mean rate (kb/s) of each stretch of `sampleSeconds`, and when it began. */
  rates: { uploadKbps: number; measuredAt: Date }[]
}

interface Options extends MeasurementRequest {
  connections: number
  /** Ends it early; what was measured until then is given. */
  signal: AbortSignal
  /** Called with the rate (kb/s) of each second as it goes, the warm-up left out. */
  onSecond: (rates: number[]) => void
}

const echoCount = 5
const drawEverySeconds = 0.5
/** How long after the end is waited for what is still on its way. */
const graceMilliseconds = 2000

/** Bytes that no line on the way could make smaller. */
function incompressible(): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(transferLimits.mostBytes)
  const maxAtOnce = 65_536
  for (let at = 0; at < bytes.length; at += maxAtOnce)
    crypto.getRandomValues(bytes.subarray(at, Math.min(bytes.length, at + maxAtOnce)))
  return bytes
}

async function timeRoundTrip(id: string, signal: AbortSignal): Promise<number> {
  const times: number[] = []
  for (let turn = 0; turn < echoCount; turn += 1) {
    const start = performance.now()
    await echo(id, signal)
    times.push(performance.now() - start)
  }
  return percentile(times, 50)
}

/**
 * Sends real bytes to our own server over several connections and says at which rate they were
 * accepted. What is stored are the means of whole stretches after the warm-up.
 */
export async function measureUpload(options: Options): Promise<MeasuredRates> {
  const { connections, durationSeconds, practice, signal, onSecond } = options
  const id = await beginMeasurement({ durationSeconds: durationSeconds + warmUpSeconds, practice })
  const cutOff = new AbortController()
  try {
    const roundTripMilliseconds = await timeRoundTrip(id, signal)
    const bytes = incompressible()
    const transfers: Transfer[] = []
    const beganAt = performance.now()
    const from = beganAt + warmUpSeconds * 1000
    const to = from + durationSeconds * 1000
    const span = (until: number) => ({ fromMilliseconds: from, toMilliseconds: until })
    const isOver = (): boolean => signal.aborted || performance.now() >= to

    const connection = async (): Promise<void> => {
      let size: number = transferLimits.firstBytes
      while (!isOver()) {
        const start = performance.now()
        await sendBytes(id, new Blob([bytes.subarray(0, size)]), cutOff.signal)
        const transfer = {
          fromMilliseconds: start,
          toMilliseconds: performance.now(),
          bytes: size,
        }
        transfers.push(transfer)
        size = nextTransferBytes(transfer)
      }
    }
    const drawing = setInterval(() => {
      onSecond(transferRates(transfers, span(Math.min(to, performance.now())), 1000))
    }, drawEverySeconds * 1000)
    const grace = setTimeout(() => cutOff.abort(), to - performance.now() + graceMilliseconds)
    signal.addEventListener('abort', () => cutOff.abort(), { once: true })
    const ended = await Promise.allSettled(Array.from({ length: connections }, connection))
    clearInterval(drawing)
    clearTimeout(grace)
    const failed = ended.find(
      (result) => result.status === 'rejected' && !(result.reason instanceof DOMException),
    )
    if (failed?.status === 'rejected') throw failed.reason
    const until = Math.min(to, performance.now())
    const startedAt = Date.now() - (performance.now() - from)
    return {
      roundTripMilliseconds,
      rates: transferRates(transfers, span(until), sampleSeconds * 1000).map(
        (uploadKbps, index) => ({
          uploadKbps,
          measuredAt: new Date(startedAt + index * sampleSeconds * 1000),
        }),
      ),
    }
  } finally {
    void endMeasurement(id).catch(() => undefined)
  }
}
