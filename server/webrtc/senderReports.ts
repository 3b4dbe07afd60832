import type { RtcpPacket, RTCRtpSender } from 'werift'

/** A packet of RTCP in which a sender says where its clock stands. */
const isSenderReport = (
  packet: RtcpPacket,
): packet is Extract<RtcpPacket, { senderInfo: unknown }> => 'senderInfo' in packet

/**
 * Puts into a sender's reports when its time stamps really are, by which whoever receives lays sound
 * and picture together. The library writes the fraction of a second wrong, up to a second off.
 */
export function reportTrueTimes(
  sender: RTCRtpSender,
  ntpOf: (timeStamp: number) => bigint | null,
): void {
  const { transport, ssrc } = sender
  const sendRtcp = transport.sendRtcp.bind(transport)
  transport.sendRtcp = (packets) => {
    for (const packet of packets)
      if (isSenderReport(packet) && packet.ssrc === ssrc)
        packet.senderInfo.ntpTimestamp =
          ntpOf(packet.senderInfo.rtpTimestamp) ?? packet.senderInfo.ntpTimestamp
    return sendRtcp(packets)
  }
}
