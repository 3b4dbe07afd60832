import type { Arrival } from '@green-mantle/core/arrival'
import { crossedSince, type DatagramListener } from './datagramListener'
import { nothingCrossed, openDatagramFront } from './datagramFront'
import { innerPorts } from './innerPorts'
import { isSrtMedia, srtKnock } from './srtHandshake'
import { streamReader, type StreamReaderOptions } from './streamReader'

export interface SrtListenerOptions extends Pick<
  StreamReaderOptions,
  'clock' | 'watches' | 'keeps'
> {
  host: string
  /** Callers knock at the first port that nobody has from here on. */
  firstPort: number
  /** Why a caller with this stream ID is not taken; null where it is. */
  refusal: (streamId: string) => string | null
  /** Whether a datagram gets through, and when; without it all do, at once. */
  pass?: (bytes: number) => Promise<boolean>
  /** Told when the first of its frames is there, and when it is gone. */
  began?: (arrival: Arrival, streamId: string) => void
  ended?: () => void
}

/**
 * Listens for one send over SRT, and again after each that ended, until it is stopped. The program that
 * speaks SRT is started when somebody calls: a port at which nobody knocks takes no process.
 */
export async function listenSrt(options: SrtListenerOptions): Promise<DatagramListener> {
  const { host, clock } = options
  let isStopped = false
  /** What had crossed before the first frame that is known of: the program looks at the stream for a second. */
  let before = nothingCrossed
  const reader = streamReader({
    ...options,
    began(arrival) {
      before = front.crossed()
      options.began?.(arrival, front.caller())
    },
    ended: () => options.ended?.(),
  })
  const front = await openDatagramFront({
    ...{ host, firstPort: options.firstPort, pass: options.pass, isMedia: isSrtMedia },
    knock: (datagram, caller) =>
      srtKnock(datagram, caller, (streamId) =>
        reader.isArriving() ? 'another program sends here already' : options.refusal(streamId),
      ),
  })

  async function once(): Promise<void> {
    await front.called()
    if (isStopped) return
    const port = await innerPorts.reserve()
    try {
      await reader.read(
        () =>
          Promise.resolve([
            // A caller's stream is a transport stream, whatever its first bytes suggest.
            ...['-f', 'mpegts', '-protocol_whitelist', 'srt,udp', '-format_whitelist', 'mpegts'],
            ...['-i', `srt://${host}:${port}?mode=listener`],
          ]),
        () => {
          before = nothingCrossed
          front.leadTo(port)
        },
      )
    } finally {
      front.leadTo(null)
      innerPorts.free(port)
    }
  }
  /** A program that cannot listen (the port is taken) is not started over and over. */
  async function again(): Promise<void> {
    while (!isStopped) {
      const started = clock()
      await once()
      if (!isStopped && clock() - started < 1)
        await new Promise((resolve) => setTimeout(resolve, 1000))
    }
  }
  const going = again().catch((error: unknown) => {
    console.error('Listening over SRT ended:', (error as Error).message)
  })
  return {
    port: front.port,
    ...{ arrival: reader.arrival, isArriving: reader.isArriving, stretch: reader.stretch },
    ...{ forget: reader.forget, hangUp: reader.hangUp },
    crossed: () => crossedSince(before, front.crossed()),
    openAt: front.openAt,
    closeElsewhere: front.closeElsewhere,
    async stop() {
      isStopped = true
      front.close()
      await reader.stop()
      await going
    },
  }
}
