import type { RTCPeerConnection } from 'werift'

/** Of a DTLS record, and what it holds: a warning that the connection is closed (RFC 6347; RFC 5246, 7.2). */
const alertRecord = 21
const closeNotify = Buffer.of(1, 0)
const sendMilliseconds = 20

/**
 * Ends a WebRTC session and tells the other side, which would otherwise find out only when nobody has
 * answered it for half a minute (RFC 7675). The library tells nobody, and sends records of data alone.
 */
export async function closeSession(peer: RTCPeerConnection): Promise<void> {
  for (const { dtls } of peer.dtlsTransports) {
    if (!dtls?.connected) continue
    const encrypt = dtls.cipher.encryptPacket.bind(dtls.cipher)
    dtls.cipher.encryptPacket = (packet) => {
      packet.recordLayerHeader.contentType = alertRecord
      return encrypt(packet)
    }
    await dtls.send(closeNotify).catch(() => {})
    // A socket that is closed in the same moment lets go of what it was to send.
    await new Promise((resolve) => setTimeout(resolve, sendMilliseconds))
  }
  await peer.close()
}

/** Tells once when a session that was described on both sides is over, whichever side ended it. */
export function whenSessionEnds(peer: RTCPeerConnection, ended: () => void): void {
  let isTold = false
  const tell = (): void => {
    if (!isTold) ended()
    isTold = true
  }
  peer.connectionStateChange.subscribe((state) => {
    if (state === 'failed' || state === 'closed') tell()
  })
  // What the other side says itself reaches its transport alone.
  for (const transport of peer.dtlsTransports)
    transport.onStateChange.subscribe((state) => {
      if (state === 'failed' || state === 'closed') tell()
    })
}
