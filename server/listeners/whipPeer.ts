import type { RTCPeerConnection, RTCRtpReceiver, RtpPacket } from 'werift'
import { ntpUnitsPerSecond } from '../webrtc/ntpTime'
import { closeSession, whenSessionEnds } from '../webrtc/sessionEnd'

/** What a person's own program wants to send is not what can be taken here; in words. */
export class OfferRefused extends Error {
  constructor(
    message: string,
    /** Of HTTP. */
    readonly status: number,
  ) {
    super(message)
  }
}

export type MediaKind = 'video' | 'audio'

/** What a sender says of its clock: at which moment of its own time a stream was at a time stamp. */
export interface ClockReport {
  atSeconds: number
  timeStamp: number
}

export interface WhipPeerOptions {
  packet: (kind: MediaKind, packet: RtpPacket) => void
  clockReport: (kind: MediaKind, report: ClockReport) => void
  /** It is over, whoever ended it. */
  closed: () => void
}

/** The receiving end of one WebRTC session. */
export interface WhipPeer {
  /** Session description, with `host` and `port` as where datagrams are to come. */
  answer(host: string, port: number): string
  /** On loopback, where its datagrams go. */
  readonly innerPort: number
  /** Whether a datagram is the first word of whoever was given the answer (RFC 8445, 7.2.2). */
  isCall(datagram: Buffer): boolean
  readonly hasSound: boolean
  /** Parameters of the picture that the offer itself brings, as it has them; empty where they come with the stream. */
  readonly parameterSets: string
  /** Asks the sender for a keyframe. */
  askForKeyframe(): void
  close(): Promise<void>
}

const host = '127.0.0.1'
const payloadTypes = { video: 96, audio: 97 } as const
export const clockRatesHz = { video: 90_000, audio: 48_000 } as const

/** Where a sender says that it is found, which is not needed: it calls. Names among them would be looked up. */
const withoutCandidates = (offer: string): string => offer.replaceAll(/^a=candidate:.*\r?\n?/gm, '')

type Offered = Pick<WhipPeer, 'hasSound' | 'parameterSets'>

/** A picture, a sound, and what a program offers beside them that is not taken. */
const maxMedia = 8
const maxOfferLines = 2000

function checkOffer(offer: string): Offered {
  // Before any work is done for it.
  const lines = offer.split('\n')
  if (
    lines.length > maxOfferLines ||
    lines.filter((line) => line.startsWith('m=')).length > maxMedia
  )
    throw new OfferRefused(`It offers more than ${maxMedia} media, or is too long.`, 400)
  if (!/^m=video /m.test(offer)) throw new OfferRefused('It offers no picture.', 406)
  if (!/^a=rtpmap:\d+ H264\/90000/im.test(offer))
    throw new OfferRefused('It offers no H.264, which is what is taken here over WHIP.', 406)
  const hasSound = /^m=audio /m.test(offer)
  if (hasSound && !/^a=rtpmap:\d+ opus\/48000/im.test(offer))
    throw new OfferRefused('It offers no Opus, which is the sound of WHIP.', 406)
  // In base64, two with a comma between them (RFC 6184, 8.1).
  const [, parameterSets = ''] =
    /^a=fmtp:.*sprop-parameter-sets=([A-Za-z0-9+/=,]{1,2000})/m.exec(offer) ?? []
  return { hasSound, parameterSets }
}

/**
 * Takes an offer of H.264 and Opus as an ICE-lite agent that is reached on loopback alone. Throws
 * `OfferRefused` where it cannot be taken.
 */
export async function takeOffer(offer: string, options: WhipPeerOptions): Promise<WhipPeer> {
  const offered = checkOffer(offer)
  // Read when it is needed: most shows send nothing by it.
  const { RTCPeerConnection, RTCRtpCodecParameters, useNACK, usePLI } = await import('werift')
  const peer = new RTCPeerConnection({
    codecs: {
      video: [
        new RTCRtpCodecParameters({
          ...{ mimeType: 'video/H264', clockRate: clockRatesHz.video },
          ...{ payloadType: payloadTypes.video, rtcpFeedback: [useNACK(), usePLI()] },
          parameters: 'level-asymmetry-allowed=1;packetization-mode=1;profile-level-id=42e01f',
        }),
      ],
      audio: [
        new RTCRtpCodecParameters({
          ...{ mimeType: 'audio/opus', clockRate: clockRatesHz.audio, channels: 2 },
          ...{ payloadType: payloadTypes.audio, parameters: 'stereo=1;useinbandfec=1' },
        }),
      ],
    },
    // No feedback on congestion: what the library gives made a browser send a third of what it could.
    ...{ iceServers: [], iceLite: true, bundlePolicy: 'max-bundle' },
    // Without interfaces of its own it opens none to the network.
    ...{ iceUseIpv4: false, iceUseIpv6: false, iceAdditionalHostAddresses: [host] },
  })
  try {
    return await begin(peer, { offer, ...offered }, options)
  } catch (error) {
    await peer.close()
    throw error instanceof OfferRefused
      ? error
      : new OfferRefused('Its offer cannot be read as a session description.', 400)
  }
}

async function begin(
  peer: RTCPeerConnection,
  { offer, ...offered }: Offered & { offer: string },
  { packet, clockReport, closed }: WhipPeerOptions,
): Promise<WhipPeer> {
  const { RtcpSrPacket, parseMessage } = await import('werift')
  let picture: { receiver: RTCRtpReceiver; source: number } | undefined
  const taken = new Set<string>()
  peer.onRemoteTransceiverAdded.subscribe(({ receiver, kind, onTrack }) =>
    onTrack.subscribe((track) => {
      // A session may offer several; one picture and one sound are a send.
      if (taken.has(kind) || (kind !== 'video' && kind !== 'audio')) return
      taken.add(kind)
      track.onReceiveRtp.subscribe((rtp) => {
        if (kind === 'video') picture = { receiver, source: rtp.header.ssrc }
        packet(kind, rtp)
      })
      track.onReceiveRtcp.subscribe((rtcp) => {
        if (!(rtcp instanceof RtcpSrPacket)) return
        const { ntpTimestamp, rtpTimestamp } = rtcp.senderInfo
        clockReport(kind, {
          atSeconds: Number(ntpTimestamp) / ntpUnitsPerSecond,
          timeStamp: rtpTimestamp,
        })
      })
    }),
  )
  await peer.setRemoteDescription({ type: 'offer', sdp: withoutCandidates(offer) })
  await peer.setLocalDescription(await peer.createAnswer())
  whenSessionEnds(peer, closed)
  const description = peer.localDescription?.sdp ?? ''
  const [, innerPort] = /^a=candidate:\S+ 1 udp \d+ 127\.0\.0\.1 (\d+) /m.exec(description) ?? []
  const [, userName] = /^a=ice-ufrag:(\S+)/m.exec(description) ?? []
  const [, password] = /^a=ice-pwd:(\S+)/m.exec(description) ?? []
  if (innerPort === undefined || userName === undefined || password === undefined)
    throw new OfferRefused('It offers nothing that is taken here.', 406)
  return {
    innerPort: Number(innerPort),
    ...offered,
    isCall(datagram) {
      // Checked against the password that only the answer held.
      const message = parseMessage(datagram, Buffer.from(password))
      const caller: unknown = message?.getAttributeValue('USERNAME')
      return typeof caller === 'string' && caller.startsWith(`${userName}:`)
    },
    answer: (atHost, port) =>
      description.replaceAll(
        /^(a=candidate:\S+ 1 udp \d+) \S+ \d+ /gm,
        (_, beginning: string) => `${beginning} ${atHost} ${port} `,
      ),
    askForKeyframe() {
      void picture?.receiver.sendRtcpPLI(picture.source).catch(() => {})
    },
    close: () => closeSession(peer),
  }
}
