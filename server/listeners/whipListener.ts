import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Arrival } from '@green-mantle/core/arrival'
import { nanoid } from 'nanoid'
import { openDatagramFront, nothingCrossed } from './datagramFront'
import { crossedSince, type DatagramListener } from './datagramListener'
import { innerPorts } from './innerPorts'
import {
  portsOfSession,
  sessionDescription,
  sessionPackets,
  type SessionPackets,
} from './sessionPackets'
import { streamReader, type StreamReaderOptions } from './streamReader'
import { OfferRefused, takeOffer, type WhipPeer } from './whipPeer'

/** A program that was answered and does not come, or that went without a word, is gone after so long. */
const silentSeconds = 8

export interface WhipListenerOptions extends Pick<
  StreamReaderOptions,
  'clock' | 'watches' | 'keeps'
> {
  host: string
  /** Datagrams come in at the first port that nobody has from here on. */
  firstPort: number
  /** Whether a datagram gets through, and when; without it all do, at once. */
  pass?: (bytes: number) => Promise<boolean>
  /** Told when the first of its frames is there, and when it is gone. */
  began?: (arrival: Arrival) => void
  ended?: () => void
}

export interface WhipListener extends DatagramListener {
  /**
   * Takes a session that is offered at an address of this computer by whoever has the key: what answers
   * it, and the name by which it can be ended. Throws `OfferRefused`, in words.
   */
  take(offer: string, at: string): Promise<{ answer: string; name: string }>
  /** Ends the session of that name; false where there is none. */
  end(name: string): boolean
}

interface Session {
  name: string
  beganAtSeconds: number
  end(): void
  readonly ended: Promise<void>
}

/** RTP apart from RTCP, and from what sets a session up, by their first bytes (RFC 5761, 4; RFC 7983, 7). */
function isRtp(datagram: Buffer): boolean {
  const [first = 0, second = 0] = datagram
  const type = second & 0x7f
  return first >= 128 && first < 192 && (type < 64 || type > 95)
}

/**
 * Listens for one send over WHIP (RFC 9725): takes what is offered, once at a time, until it is
 * stopped. A port at which nobody calls takes no process.
 */
export async function listenWhip(options: WhipListenerOptions): Promise<WhipListener> {
  const { clock } = options
  let before = nothingCrossed
  let session: Session | undefined
  let peer: WhipPeer | undefined
  let packets: SessionPackets | undefined
  let isStopped = false
  const reader = streamReader({
    ...options,
    sound: () => packets?.sound() ?? null,
    began(arrival) {
      before = front.crossed()
      options.began?.(arrival)
    },
    ended: () => options.ended?.(),
  })
  const front = await openDatagramFront({
    ...{ host: options.host, firstPort: options.firstPort, pass: options.pass, isMedia: isRtp },
    knock: (datagram) => (peer?.isCall(datagram) ? { letInAs: session?.name ?? '' } : 'none'),
  })

  /** Whoever came before and is heard no more makes room. */
  async function makeRoom(): Promise<void> {
    if (!session) return
    const isComing = !peer || clock() - session.beganAtSeconds < silentSeconds
    if (reader.isArriving() || isComing)
      throw new OfferRefused('Another program sends here already.', 409)
    session.end()
    await session.ended
  }

  async function take(offer: string, at: string): Promise<{ answer: string; name: string }> {
    await makeRoom()
    if (isStopped || session) throw new OfferRefused('Another program sends here already.', 409)
    const over = new AbortController()
    let wasEnded: () => void = () => {}
    const own: Session = {
      name: nanoid(20),
      beganAtSeconds: clock(),
      end: () => over.abort(),
      ended: new Promise((resolve) => (wasEnded = resolve)),
    }
    session = own
    let port: number | undefined
    const cleanUp = async (): Promise<void> => {
      packets?.close()
      // It says that it is over, for which its last packet has to find its way out.
      await peer?.close()
      front.leadTo(null)
      if (port !== undefined) innerPorts.free(port, portsOfSession)
      ;[packets, peer, session] = [undefined, undefined, undefined]
      wasEnded()
    }
    try {
      port = await innerPorts.reserve(portsOfSession)
      const handed = sessionPackets(port)
      packets = handed
      let heardAtSeconds = own.beganAtSeconds
      const taken = await takeOffer(offer, {
        packet(kind, rtp) {
          heardAtSeconds = clock()
          handed.take(kind, {
            ...{ timeStamp: rtp.header.timestamp, payload: rtp.payload },
            bytes: () => rtp.serialize(),
          })
        },
        clockReport: (kind, report) => handed.clockReport(kind, report),
        closed: () => over.abort(),
      })
      peer = taken
      const watch = setInterval(() => {
        if (clock() - heardAtSeconds > silentSeconds) over.abort()
      }, 1000)
      over.signal.addEventListener('abort', () => {
        clearInterval(watch)
        reader.hangUp()
      })
      before = nothingCrossed
      front.leadTo(taken.innerPort)
      void readWhile(over, { port, taken, handed }).finally(() => {
        clearInterval(watch)
        return cleanUp()
      })
      return { answer: taken.answer(at, front.port), name: own.name }
    } catch (error) {
      await cleanUp()
      throw error
    }
  }

  async function readWhile(
    over: AbortController,
    { port, taken, handed }: { port: number; taken: WhipPeer; handed: SessionPackets },
  ): Promise<void> {
    const reading = reader.read(
      async (folder) => {
        over.signal.throwIfAborted()
        const path = join(folder, 'session.sdp')
        await writeFile(path, sessionDescription(port, taken))
        return [
          ...[
            '-protocol_whitelist',
            'file,udp,rtp',
            '-format_whitelist',
            'sdp,rtp',
            '-localaddr',
            '127.0.0.1',
          ],
          ...['-buffer_size', '4000000', '-f', 'sdp', '-i', path],
        ]
      },
      () => {
        // Over meanwhile: what has just begun nobody would end.
        if (over.signal.aborted) return reader.hangUp()
        taken.askForKeyframe()
        void handed.handOn(taken.hasSound, over.signal).then((isRead) => {
          if (!isRead) over.abort()
        })
      },
    )
    await reading.catch((error: unknown) => {
      if (!over.signal.aborted)
        console.error('Listening over WHIP ended:', (error as Error).message)
    })
    over.abort()
  }

  return {
    port: front.port,
    ...{ arrival: reader.arrival, isArriving: reader.isArriving, stretch: reader.stretch },
    forget: reader.forget,
    hangUp: () => session?.end(),
    crossed: () => crossedSince(before, front.crossed()),
    openAt: front.openAt,
    closeElsewhere: front.closeElsewhere,
    take,
    end(name) {
      if (session?.name !== name) return false
      session.end()
      return true
    },
    async stop() {
      isStopped = true
      front.close()
      session?.end()
      await reader.stop()
      await session?.ended
    },
  }
}
