import { createServer, type Server, type Socket } from 'node:net'
import { performance } from 'node:perf_hooks'
import {
  type Arrival,
  type ListenedSend,
  type Listening as Heard,
  nothingArrived,
  reportOf,
} from '@green-mantle/core/arrival'
import { canvasEncodesOf, type EncodedOutput, type EncodedShow } from '@green-mantle/core/encoding'
import { nanoid } from 'nanoid'
import {
  type DatagramProtocol,
  datagramProtocolOf,
  type DatagramSend,
  listenForSend,
  whyNotListened,
} from './datagramSends'
import { flvArrival } from './flvArrival'
import { keepStretch, type KeptStretch } from './keptStretch'
import { localAddresses, openToNetwork, type OpenToNetwork } from './localNetwork'
import { freeListenerPort } from './ports'
import { type PublishedSink, takeRtmp } from './rtmpConnection'
import type { PacedDatagrams } from '../line/pacedDatagrams'
import { type Watching, watchPackets } from './watching'
import { openWhipEndpoint, type WhipEndpoint } from './whipEndpoint'
import type { WhipListener } from './whipListener'

const host = '127.0.0.1'
const application = 'practice'
const firstRtmpPort = 19_350
const firstWhipPort = 19_500
/** Fifty destinations with ladders of three and two ingests, and connections that have not said where they belong. */
const maxConnections = 320
/** Each that is watched takes a process that decodes it. */
const maxWatched = 12
/** Listening that nobody looks after any more ends by itself. */
const forgottenMilliseconds = 4 * 3_600_000

interface RtmpSend {
  output: EncodedOutput
  streamKey: string
  arrival: Arrival
  /** Of what is or was last sent; null where none is wanted. */
  stretch: KeptStretch | null
  isArriving: boolean
  wireBytes: number
  ended: string | null
  refusedSecond: number
}

/** The listeners of one show. */
interface Listening {
  server: Server
  port: number
  rtmp: Map<string, RtmpSend>
  datagrams: Map<string, DatagramSend>
  /** Where sends over WHIP are offered. */
  whip: WhipEndpoint
  /** Sends that are not listened to, and why. */
  others: { output: EncodedOutput; note: string }[]
  /** The ends of keys that were tried and belong to nobody. */
  strangers: string[]
  /** Whether what arrives is decoded, to see a picture that stands still and hear silence. */
  watches: boolean
  /** The sends of whose picture a short stretch is kept, to be held against what was sent. */
  keeps: ReadonlySet<string>
  /** What holds back what comes in as datagrams; null where nothing does. */
  paced: PacedDatagrams | null
  sockets: Set<Socket>
  /** Open to other computers of the local network; null where it never was or was closed. */
  network: OpenToNetwork | null
  lastLookedAt: number
}

const listenings = new Map<string, Listening>()
const clock = (): number => performance.now() / 1000

const sendsOf = (show: EncodedShow): EncodedOutput[] =>
  canvasEncodesOf(show).flatMap(({ encodes }) =>
    encodes.flatMap(({ outputs }) => outputs.filter(({ feed }) => !feed.isRecording)),
  )

const noSends: ReadonlySet<string> = new Set()
const notWatched: Watching = { take: () => {}, stop: () => {} }

/** Keeps the end of a key that belongs to nobody, once however often it is tried again, and says so. */
function refusedStranger(listening: Listening, key: string): string {
  const end = key.slice(-4)
  if (listening.strangers.at(-1) !== end)
    listening.strangers = [...listening.strangers.slice(-4), end]
  return 'this key belongs to no send of the show'
}

/** Takes one publisher for the send whose key it brings. */
function admit(
  listening: Listening,
  key: string,
  onBytes: (send: RtmpSend, count: number) => void,
): PublishedSink | string {
  const send = [...listening.rtmp.values()].find(({ streamKey }) => streamKey === key)
  if (!send) return refusedStranger(listening, key)
  if (send.isArriving) {
    send.refusedSecond += 1
    return 'another program sends here already'
  }
  const { arrival, take } = flvArrival(clock)
  const watched = [...listening.rtmp.values()].filter(({ isArriving }) => isArriving).length
  const watching =
    listening.watches && watched < maxWatched ? watchPackets(arrival.watched) : notWatched
  const stretch = listening.keeps.has(send.output.key) ? keepStretch() : null
  Object.assign(send, {
    ...{ arrival, stretch, isArriving: true },
    ...{ wireBytes: 0, ended: null, refusedSecond: 0 },
  })
  return {
    bytes: (count) => onBytes(send, count),
    packet(packet) {
      take(packet)
      watching.take(packet)
      stretch?.take(packet)
    },
    ended(why) {
      send.isArriving = false
      send.ended = why
      watching.stop()
    },
  }
}

function takeConnection(listening: Listening, socket: Socket): void {
  listening.sockets.add(socket)
  socket.once('close', () => listening.sockets.delete(socket))
  takeRtmp(socket, (_, key) => admit(listening, key, (send, count) => (send.wireBytes += count)))
}

async function open(): Promise<Listening> {
  const port = await freeListenerPort(firstRtmpPort, 'tcp')
  const made: Listening = {
    server: createServer((socket) => takeConnection(made, socket)),
    port,
    rtmp: new Map(),
    datagrams: new Map(),
    whip: await openWhipFor(() => made),
    others: [],
    strangers: [],
    watches: true,
    keeps: noSends,
    paced: null,
    sockets: new Set(),
    network: null,
    lastLookedAt: performance.now(),
  }
  made.server.maxConnections = maxConnections
  await new Promise<void>((resolve, reject) => {
    made.server.once('error', reject)
    made.server.listen({ port, host }, resolve)
  }).catch(async (error: unknown) => {
    await made.whip.close()
    throw error
  })
  return made
}

/** Brings the listeners in line with what the show sends now; what is listened to already keeps its address and key. */
async function align(listening: Listening, show: EncodedShow): Promise<void> {
  const wanted = new Map(sendsOf(show).map((output) => [output.key, output]))
  const protocolOf = (key: string): DatagramProtocol | 'rtmp' | null => {
    const output = wanted.get(key)
    if (!output) return null
    return output.muxer === 'flv' ? 'rtmp' : datagramProtocolOf(output)
  }
  for (const key of listening.rtmp.keys())
    if (protocolOf(key) !== 'rtmp') listening.rtmp.delete(key)
  for (const [key, { protocol, listener }] of listening.datagrams)
    if (protocolOf(key) !== protocol) {
      await listener.stop()
      listening.datagrams.delete(key)
    }
  listening.others = []
  for (const [key, output] of wanted) {
    const protocol = protocolOf(key)
    if (protocol === 'rtmp') {
      if (!listening.rtmp.has(key)) listening.rtmp.set(key, overRtmpFor(output))
    } else if (protocol === null)
      listening.others.push({ output, note: 'Nothing here can listen to it.' })
    else if (!listening.datagrams.has(key)) {
      const note = whyNotListened(protocol, listening.datagrams.values())
      if (note !== null) listening.others.push({ output, note })
      else listening.datagrams.set(key, await overDatagramsFor(listening, protocol, output))
    }
  }
}

const overRtmpFor = (output: EncodedOutput): RtmpSend => ({
  output,
  streamKey: `${output.streamName}${nanoid(16)}`,
  arrival: nothingArrived(),
  stretch: null,
  isArriving: false,
  wireBytes: 0,
  ended: null,
  refusedSecond: 0,
})

async function overDatagramsFor(
  listening: Listening,
  protocol: DatagramProtocol,
  output: EncodedOutput,
): Promise<DatagramSend> {
  const send = await listenForSend(protocol, output, {
    watches: () => listening.watches,
    keeps: () => listening.keeps.has(output.key),
    pass: (key, bytes) => listening.paced?.pass(key, bytes) ?? Promise.resolve(true),
    refusedStranger: (key) => refusedStranger(listening, key),
  })
  await openElsewhere(listening, send)
  return send
}

/** One endpoint takes all sends over WHIP; the key tells which one is offered. */
function openWhipFor(listening: () => Listening): Promise<WhipEndpoint> {
  const overWhip = (): (DatagramSend & { protocol: 'whip' })[] =>
    [...listening().datagrams.values()].filter((send) => send.protocol === 'whip')
  return openWhipEndpoint({
    firstPort: firstWhipPort,
    listenerOf: (key): WhipListener | string =>
      overWhip().find(({ streamKey }) => streamKey === key)?.listener ??
      refusedStranger(listening(), key),
    listeners: () => overWhip().map(({ listener }) => listener),
  })
}

/** Lets the local network in where the listeners are open to it; a port that another program has there stays its own. */
async function openElsewhere({ network }: Listening, { listener }: DatagramSend): Promise<void> {
  if (!network || network.until <= Date.now()) return
  for (const address of network.hosts)
    await listener
      .openAt(address)
      .catch((error: unknown) => console.warn('Not open to datagrams:', (error as Error).message))
}

/** Two windows may begin and end at once: one after the other, so that none opens what another has. */
let lastTurn: Promise<unknown> = Promise.resolve()
function inTurn(work: () => Promise<void>): Promise<void> {
  const turn = lastTurn.then(work, work)
  lastTurn = turn.catch(() => {})
  return turn
}

interface ListeningOptions {
  /** Whether what arrives is decoded as well; in a trial that would take from the encoders what is being measured. */
  watches: boolean
  /** The sends of whose picture a short stretch is kept instead. */
  keeps: ReadonlySet<string>
  /** What came before, of sends that are not coming in now, is nobody's any more. */
  forgets: boolean
  /** What holds back what comes in as datagrams; null where nothing does. */
  paced: PacedDatagrams | null
}
const plainListening: ListeningOptions = {
  ...{ watches: true, keeps: noSends, forgets: false, paced: null },
}

/** Listens to every send of a show, on this computer alone until it is opened. */
export const beginListening = (
  showId: string,
  show: EncodedShow,
  options: Partial<ListeningOptions> = {},
): Promise<void> => inTurn(() => begin(showId, show, { ...plainListening, ...options }))

async function begin(
  showId: string,
  show: EncodedShow,
  { watches, keeps, forgets, paced }: ListeningOptions,
): Promise<void> {
  await endForgotten()
  let listening = listenings.get(showId)
  if (!listening) {
    listening = await open()
    listenings.set(showId, listening)
  }
  listening.watches = watches
  listening.keeps = keeps
  listening.paced = paced
  await align(listening, show)
  for (const [key, send] of listening.rtmp) if (!keeps.has(key)) send.stretch = null
  if (!forgets) return
  for (const send of listening.rtmp.values())
    if (!send.isArriving)
      Object.assign(send, {
        arrival: nothingArrived(),
        stretch: null,
        wireBytes: 0,
        ended: null,
        refusedSecond: 0,
      })
  for (const { listener } of listening.datagrams.values())
    if (!listener.isArriving()) listener.forget()
}

/**
 * Lets other computers of the local network send to the listeners of a show, for so many minutes from
 * now; whoever does needs a key. False where nothing listens. Throws in words where this
 * computer is in no network.
 */
export async function openListening(
  showId: string,
  minutes: number,
  addresses: readonly string[] = localAddresses(),
): Promise<boolean> {
  let isOpen = false
  await inTurn(async () => {
    const listening = listenings.get(showId)
    if (!listening) return
    await listening.network?.close()
    listening.network = null
    listening.network = await openToNetwork({
      doors: [
        {
          port: listening.port,
          onConnection: (socket) => takeConnection(listening, socket),
        },
        { port: listening.whip.port, onConnection: listening.whip.takeConnection },
      ],
      addresses,
      milliseconds: minutes * 60_000,
      maxConnections,
      onClose: () => {
        for (const { listener } of listening.datagrams.values()) listener.closeElsewhere()
      },
    })
    await Promise.all(
      [...listening.datagrams.values()].map((send) => openElsewhere(listening, send)),
    )
    isOpen = true
  })
  return isOpen
}

/** Leaves this computer alone again, and ends what other computers send. */
export const closeListening = (showId: string): Promise<void> =>
  inTurn(async () => {
    const listening = listenings.get(showId)
    await listening?.network?.close()
    if (listening) listening.network = null
  })

export const endListening = (showId: string): Promise<void> => inTurn(() => end(showId))

async function end(showId: string): Promise<void> {
  const listening = listenings.get(showId)
  if (!listening) return
  listenings.delete(showId)
  await listening.network?.close()
  for (const socket of listening.sockets) socket.destroy()
  await Promise.all([
    new Promise((resolve) => listening.server.close(resolve)),
    ...[...listening.datagrams.values()].map(({ listener }) => listener.stop()),
    listening.whip.close(),
  ])
}

export const endAllListening = (): Promise<void> =>
  inTurn(async () => {
    await Promise.all([...listenings.keys()].map(end))
  })

async function endForgotten(): Promise<void> {
  for (const [showId, { lastLookedAt }] of listenings)
    if (performance.now() - lastLookedAt > forgottenMilliseconds) await end(showId)
}

const saidOfRtmp = ({ ended, refusedSecond }: RtmpSend): string[] => [
  ...(refusedSecond > 0
    ? ['A second program tried to send here at the same time, and was refused.']
    : []),
  ...(ended ? [ended] : []),
]

/** What the listeners of a show have heard; null where none listen. */
export function listeningState(showId: string): Heard | null {
  const listening = listenings.get(showId)
  if (!listening) return null
  listening.lastLookedAt = performance.now()
  const now = clock()
  const overRtmp = [...listening.rtmp.values()].map((send): ListenedSend => ({
    key: send.output.key,
    address: `rtmp://${host}:${listening.port}/${application}`,
    streamKey: send.streamKey,
    note: '',
    isArriving: send.isArriving,
    report: reportOf(send.arrival, now),
    wireBytes: send.wireBytes,
    said: saidOfRtmp(send),
  }))
  const overDatagrams = [...listening.datagrams.values()].map((send): ListenedSend => ({
    ...{ key: send.output.key, streamKey: send.streamKey, note: '' },
    address:
      send.protocol === 'whip'
        ? listening.whip.address(host)
        : `srt://${host}:${send.listener.port}`,
    isArriving: send.listener.isArriving(),
    report: reportOf(send.listener.arrival(), now),
    wireBytes: send.listener.crossed().wireBytes,
    said: [],
  }))
  const others = listening.others.map(({ output, note }): ListenedSend => ({
    ...{ key: output.key, address: null, streamKey: '', note },
    isArriving: false,
    report: null,
    wireBytes: null,
    said: [],
  }))
  const { network } = listening
  return {
    sends: [...overRtmp, ...overDatagrams, ...others],
    network:
      network && network.until > Date.now()
        ? { hosts: network.hosts, until: new Date(network.until).toISOString() }
        : null,
    strangers: listening.strangers.map((end) =>
      end === ''
        ? 'A program tried without a key.'
        : `A program tried a key that ends in ${end}, which belongs to no send here.`,
    ),
  }
}

/** What came in over one send, for those who need it frame by frame; undefined where nothing listens to it. */
export function arrivalOf(showId: string, sendKey: string): Arrival | undefined {
  const listening = listenings.get(showId)
  return (
    listening?.rtmp.get(sendKey)?.arrival ?? listening?.datagrams.get(sendKey)?.listener.arrival()
  )
}

/** How many packets of a send crossed and were lost on the way; null over RTMP, where none are. */
export const packetsOf = (
  showId: string,
  sendKey: string,
): { datagrams: number; lostDatagrams: number } | null =>
  listenings.get(showId)?.datagrams.get(sendKey)?.listener.crossed() ?? null

/** The stretch of a send's picture that was kept, as a file; empty where none was. */
export async function stretchOf(showId: string, sendKey: string): Promise<Buffer> {
  const listening = listenings.get(showId)
  const kept = await listening?.datagrams.get(sendKey)?.listener.stretch()
  return kept ?? listening?.rtmp.get(sendKey)?.stretch?.file() ?? Buffer.alloc(0)
}
