import type { MediaStreamTrack, RTCPeerConnection } from 'werift'
import { reportTrueTimes } from '../webrtc/senderReports'
import { closeSession, whenSessionEnds } from '../webrtc/sessionEnd'
import { type OpusProgram, opusProgram } from './opusProgram'
import { pacedSend } from './pacedSend'
import type { Ingest, Publisher, SentSound } from './publisher'
import { type WhipPicture, whipPicture } from './whipPicture'

const host = '127.0.0.1'
const [soundTag, pictureTag] = [8, 9]
const answerMilliseconds = 10_000
const connectMilliseconds = 10_000
const maxAnswerBytes = 65_536
/** So long a session that is over may take to be said so. */
const deleteMilliseconds = 2000
const payloadTypes = { video: 96, audio: 97 } as const

const isLoopback = (name: string): boolean => /^(?:127\.|localhost$|\[::1\]$)/.test(name)

/** The session that an ingest took, and where it is ended. */
interface Session {
  peer: RTCPeerConnection
  video: MediaStreamTrack
  audio: MediaStreamTrack
  resource: string | null
}

const inWords = (status: number, name: string): string => {
  if (status === 401 || status === 403) return `${name} does not take the key`
  if (status === 404) return `${name} knows no such address`
  if (status === 409) return `${name} says that another program sends there`
  return `${name} did not take it (it answered ${status})`
}

/** The text of an answer; none where it is larger than any session description. */
async function textOf({ body }: Response): Promise<string> {
  const reader = body?.getReader()
  const chunks: Uint8Array[] = []
  let bytes = 0
  for (let piece = await reader?.read(); piece?.value; piece = await reader?.read()) {
    bytes += piece.value.length
    if (bytes > maxAnswerBytes) {
      await reader?.cancel()
      return ''
    }
    chunks.push(piece.value)
  }
  return Buffer.concat(chunks).toString('utf8')
}

/** Names of the local network among where it is found would be looked up there. */
const withoutLocalNames = (answer: string): string =>
  answer.replaceAll(/^a=candidate:.*\.local .*\r?\n?/gm, '')

async function offerTo(address: URL, key: string, signal: AbortSignal): Promise<Session> {
  // Read when it is needed: most shows send nothing by it.
  const { MediaStreamTrack, RTCPeerConnection, RTCRtpCodecParameters, useNACK } =
    await import('werift')
  const isHere = isLoopback(address.hostname)
  const peer = new RTCPeerConnection({
    codecs: {
      video: [
        new RTCRtpCodecParameters({
          ...{ mimeType: 'video/H264', clockRate: 90_000, payloadType: payloadTypes.video },
          rtcpFeedback: [useNACK()],
          parameters: 'level-asymmetry-allowed=1;packetization-mode=1;profile-level-id=42e01f',
        }),
      ],
      audio: [
        new RTCRtpCodecParameters({
          ...{ mimeType: 'audio/opus', clockRate: 48_000, channels: 2 },
          ...{ payloadType: payloadTypes.audio, parameters: 'stereo=1;sprop-stereo=1' },
        }),
      ],
    },
    ...{ iceServers: [], bundlePolicy: 'max-bundle' },
    ...(isHere ? { iceUseIpv4: false, iceUseIpv6: false, iceAdditionalHostAddresses: [host] } : {}),
  })
  const video = new MediaStreamTrack({ kind: 'video' })
  const audio = new MediaStreamTrack({ kind: 'audio' })
  try {
    for (const track of [video, audio]) peer.addTransceiver(track, { direction: 'sendonly' })
    await peer.setLocalDescription(await peer.createOffer())
    const response = await fetch(address, {
      method: 'POST',
      headers: { 'content-type': 'application/sdp', ...bearer(key) },
      body: peer.localDescription?.sdp ?? '',
      signal: AbortSignal.any([signal, AbortSignal.timeout(answerMilliseconds)]),
      // Wherever it led, the key would go along.
      redirect: 'manual',
    }).catch(() => {
      throw new Error(signal.aborted ? 'it was stopped' : `nothing answers at ${address.host}`)
    })
    if (isRedirect(response.status)) {
      await response.body?.cancel()
      throw new Error(`${address.host} leads to another address, which is not followed`)
    }
    if (response.status !== 201) {
      await response.body?.cancel()
      throw new Error(inWords(response.status, address.host))
    }
    return { ...{ peer, video, audio }, resource: await takeAnswer(peer, response, address) }
  } catch (error) {
    await peer.close()
    throw error
  }
}

const isRedirect = (status: number): boolean => status >= 300 && status < 400

/**
 * Where a session is ended, as its ingest says; null where it says nothing, or names another origin than
 * its own: the key goes nowhere else, and nobody else is told to delete anything.
 */
function sessionAt(location: string | null, ingest: URL): string | null {
  if (location === null || !URL.canParse(location, ingest)) return null
  const named = new URL(location, ingest)
  return named.origin === ingest.origin ? named.href : null
}

/** Takes what answers an offer; where the session is ended, null where that is not said. */
async function takeAnswer(
  peer: RTCPeerConnection,
  response: Response,
  address: URL,
): Promise<string | null> {
  try {
    const resource = sessionAt(response.headers.get('location'), address)
    await peer.setRemoteDescription({
      type: 'answer',
      sdp: withoutLocalNames(await textOf(response)),
    })
    return resource
  } catch {
    throw new Error(`${address.host} gives an answer that is no session description`)
  }
}

async function untilConnected({ peer }: Session, name: string, signal: AbortSignal): Promise<void> {
  const waits = AbortSignal.any([signal, AbortSignal.timeout(connectMilliseconds)])
  await new Promise<void>((resolve, reject) => {
    const look = (): void => {
      if (peer.connectionState === 'connected') resolve()
      else if (peer.connectionState === 'failed' || peer.connectionState === 'closed')
        reject(new Error(`${name} answered, but no packet reaches it`))
    }
    peer.connectionStateChange.subscribe(look)
    waits.addEventListener('abort', () =>
      reject(
        new Error(signal.aborted ? 'it was stopped' : `${name} answered, but no packet reaches it`),
      ),
    )
    look()
  })
}

/**
 * Sends over WHIP (RFC 9725): offers H.264 and Opus, and when that is answered and packets get through,
 * sends them. Rejects, in words, where it is not taken. The key stands in a header alone.
 */
export async function publishOverWhip(
  { address, key }: Ingest,
  sound: SentSound,
  { kbps, signal }: { kbps: number; signal: AbortSignal },
): Promise<Publisher> {
  const url = new URL(address)
  const session = await offerTo(url, key, signal)
  try {
    await untilConnected(session, url.host, signal)
    const picture = await whipPicture(payloadTypes.video)
    const opus = await opusProgram(payloadTypes.audio, sound)
    return begin(session, { picture, opus, kbps, key })
  } catch (error) {
    // It took the offer, and would keep the place for who never comes.
    if (session.resource !== null) await deleteSession(session.resource, key)
    await session.peer.close()
    throw error
  }
}

const bearer = (key: string): Record<string, string> =>
  key === '' ? {} : { authorization: `Bearer ${key}` }

/** Says that a session is over; it ends all the same where that is not heard. */
const deleteSession = (resource: string, key: string): Promise<void> =>
  fetch(resource, {
    method: 'DELETE',
    headers: bearer(key),
    redirect: 'manual',
    signal: AbortSignal.timeout(deleteMilliseconds),
  }).then(
    (response) => response.body?.cancel(),
    () => {},
  )

function begin(
  { peer, resource, video, audio }: Session,
  {
    picture,
    opus,
    kbps,
    key,
  }: {
    picture: WhipPicture
    opus: OpusProgram
    kbps: number
    key: string
  },
): Publisher {
  let sentBytes = 0
  let isOver = false
  /** When the time stamps of what comes stood at nothing. */
  let beganAt: number | undefined
  const sendOn = (track: MediaStreamTrack) => (packet: Buffer) => {
    if (isOver) return
    sentBytes += packet.length
    track.writeRtp(packet)
  }
  const paced = pacedSend(kbps, sendOn(video))
  opus.onPacket(sendOn(audio))
  for (const sender of peer.getSenders())
    reportTrueTimes(sender, (timeStamp) =>
      sender.kind === 'audio' ? opus.ntpOf(timeStamp) : picture.ntpOf(timeStamp, beganAt ?? 0),
    )
  let end: (why: string) => void = () => {}
  const ended = new Promise<string>((resolve) => {
    end = resolve
    whenSessionEnds(peer, () => resolve('the connection broke off'))
    void opus.ended.then(resolve)
  }).then(async (why) => {
    isOver = true
    paced.close()
    // Whatever ended it: an ingest that is not told may keep the place for half a minute.
    await Promise.all([opus.close(), resource !== null && deleteSession(resource, key)])
    await closeSession(peer)
    return why
  })
  return {
    take(packet) {
      if (isOver) return
      beganAt ??= Date.now() - packet.dts
      if (packet.codec_type === soundTag) opus.take(packet, beganAt)
      if (packet.codec_type === pictureTag) picture.packetsOf(packet).forEach(paced.add)
    },
    get waitingBytes() {
      return paced.waitingBytes
    },
    get sentBytes() {
      return sentBytes
    },
    accepted: Promise.resolve(true),
    close() {
      isOver = true
      end('it was stopped')
    },
    ended,
  }
}
