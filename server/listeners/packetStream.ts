import {
  enhancedFrameHeadBytes,
  fourCharacterNumber,
  matroskaBlocks,
  matroskaHead,
  type MatroskaTrack,
  type NewerCodec,
} from '@green-mantle/core/encoding'
import type { Size } from '@green-mantle/core/show'
import Flv from 'node-media-server/src/protocol/flv.js'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import { pictureOfAv1, pictureOfHevc, soundOfAac } from './streamHead'

const [audioTag, videoTag] = [8, 9]
const flag = { audioHead: 0, audio: 1, videoHead: 2, keyframe: 3, frame: 4 } as const
/** What FLV puts before AAC, and enhanced RTMP before the head of a picture. */
const [audioHeadBytes, pictureHeadBytes] = [2, 5]

const codecNumbers: ReadonlyMap<number, NewerCodec> = new Map(
  (['hevc', 'av1'] as const).map((codec) => [fourCharacterNumber(codec), codec]),
)

/** The codec of a picture that is newer than FLV's own; undefined for any other packet. */
export const newerCodecOf = ({
  codec_type: type,
  codec_id: id,
}: MediaPacket): NewerCodec | undefined => (type === videoTag ? codecNumbers.get(id) : undefined)

/** Packets of a send as one stream that the encoder program reads. */
export interface PacketStream {
  form: 'flv' | 'matroska'
  /** What is written for a packet; nothing while a head is still to come. */
  bytesOf(packet: MediaPacket): Buffer
}

/** What is said of a picture that does not say it itself. */
interface Described extends Partial<Size> {
  framesPerSecond?: number | undefined
}
/** Whoever decodes it reads both from the picture itself. */
const anySize: Size = { width: 1920, height: 1080 }
const anyFramesPerSecond = 30

/**
 * A stream for pictures of a codec: FLV for H.264; Matroska for newer ones, which the program reads in FLV
 * only from version 6.1 on.
 */
export function packetStream(codec: 'h264' | NewerCodec, described: Described = {}): PacketStream {
  if (codec === 'h264') return flvStream()
  const writeBlock = matroskaBlocks()
  let picture: Buffer | null = null
  let sound: Buffer | null = null
  let hasBegun = false

  function tracks(configuration: Buffer): MatroskaTrack[] {
    const found = codec === 'hevc' ? pictureOfHevc(configuration) : pictureOfAv1(configuration)
    const size = {
      width: found?.width ?? described.width ?? anySize.width,
      height: found?.height ?? described.height ?? anySize.height,
    }
    const framesPerSecond = described.framesPerSecond ?? anyFramesPerSecond
    const aac = sound && soundOfAac(sound)
    return [
      { kind: 'picture', codec, size, framesPerSecond, configuration },
      ...(sound && aac
        ? [
            {
              kind: 'AAC' as const,
              sampleRateHz: aac.sampleRateHz ?? 48_000,
              channels: aac.channels ?? 2,
              configuration: sound,
            },
          ]
        : []),
    ]
  }

  return {
    form: 'matroska',
    bytesOf(packet) {
      const { codec_type: type, flags } = packet
      const body = packet.data.subarray(0, packet.size)
      if (type === videoTag && flags === flag.videoHead)
        picture ??= Buffer.from(body.subarray(pictureHeadBytes))
      else if (type === audioTag && flags === flag.audioHead)
        sound ??= Buffer.from(body.subarray(audioHeadBytes))
      const isFrame = flags === flag.keyframe || flags === flag.frame || flags === flag.audio
      if (!isFrame || !picture) return Buffer.alloc(0)
      const isPicture = type === videoTag
      // Sound without a head of its own has no track.
      if (!isPicture && !sound) return Buffer.alloc(0)
      const head = hasBegun ? [] : [matroskaHead(tracks(picture))]
      hasBegun = true
      const from = isPicture ? (enhancedFrameHeadBytes(body) ?? pictureHeadBytes) : audioHeadBytes
      const block = writeBlock({
        track: isPicture ? 1 : 2,
        atMilliseconds: packet.pts,
        isKey: !isPicture || flags === flag.keyframe,
        bytes: body.subarray(from),
      })
      return Buffer.concat([...head, block])
    },
  }
}

function flvStream(): PacketStream {
  let hasBegun = false
  return {
    form: 'flv',
    bytesOf(packet) {
      const message = Flv.createMessage(packet)
      if (hasBegun) return message
      hasBegun = true
      return Buffer.concat([Flv.createHeader(true, true), message])
    },
  }
}
