import {
  type AvcConfiguration,
  avcConfigurationOf,
  rtpPayloadsOf,
  unitsOfFrame,
} from '@green-mantle/core/encoding'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { ntpOfMilliseconds } from '../webrtc/ntpTime'

const flag = { videoHead: 2, keyframe: 3 } as const
const h264Codec = 7
/** What FLV puts before a picture: its kind and codec, and how much later it is shown. */
const flvHeadBytes = 5
/** So that no path has to cut a packet up (common practice, no published source). */
const payloadBytes = 1200
const ticksPerMillisecond = 90

/** Takes pictures as they come to the server apart, into packets of RTP. */
export interface WhipPicture {
  /** The packets of one picture; none for what only tells how to read those that come. */
  packetsOf(packet: MediaPacket): Buffer[]
  /** The NTP time of a time stamp, where they stood at nothing at `beganAt` (milliseconds since 1970). */
  ntpOf(timeStamp: number, beganAt: number): bigint
}

export async function whipPicture(payloadType: number): Promise<WhipPicture> {
  const { RtpHeader, RtpPacket } = await import('werift')
  let last = { timeStamp: 0, milliseconds: 0 }
  let configuration: AvcConfiguration | null = null
  let sequenceNumber = 0
  return {
    packetsOf({ codec_id: codec, flags, pts, data, size }) {
      if (codec !== h264Codec) return []
      const body = data.subarray(flvHeadBytes, size)
      // Kept longer than the memory that it came in is its own.
      if (flags === flag.videoHead) configuration = avcConfigurationOf(Buffer.from(body))
      if (!configuration || flags === flag.videoHead) return []
      const { parameterSets, lengthBytes } = configuration
      const units = unitsOfFrame(body, lengthBytes)
      // Parameters go before every keyframe, for whoever begins there.
      const sent = flags === flag.keyframe ? [...parameterSets, ...units] : units
      const payloads = rtpPayloadsOf(sent, payloadBytes)
      const timeStamp = (pts * ticksPerMillisecond) >>> 0
      last = { timeStamp, milliseconds: pts }
      return payloads.map((payload, index) => {
        sequenceNumber = (sequenceNumber + 1) & 0xffff
        const header = new RtpHeader({
          ...{ payloadType, sequenceNumber, ssrc: 0 },
          timestamp: timeStamp,
          marker: index === payloads.length - 1,
        })
        return new RtpPacket(header, Buffer.from(payload)).serialize()
      })
    },
    ntpOf(timeStamp, beganAt) {
      // Stamps go round after half a day; the last one tells how often they have.
      const since = ((timeStamp - last.timeStamp) | 0) / ticksPerMillisecond
      return ntpOfMilliseconds(beganAt + last.milliseconds + since)
    },
  }
}
