import {
  enhancedFrame,
  enhancedHead,
  fourCharacterNumber,
  fragmentReader,
  type FragmentSample,
  type FragmentTrack,
  type NewerCodec,
} from '@green-mantle/core/encoding'
import type { Rendition } from '@green-mantle/core/show'
import Amf from 'node-media-server/src/protocol/amf.js'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'

const [audioTag, videoTag, dataTag] = [8, 9, 18]
const flag = { audioHead: 0, audio: 1, videoHead: 2, keyframe: 3, frame: 4, data: 5 } as const
const aacCodec = 10
/** AAC as FLV has it: its number in the upper half, then what goes with every AAC; and whether a head or sound follows. */
const aacByte = 0xaf
const [aacHead, aacFrame] = [0, 1]

const packet = (
  parts: Pick<MediaPacket, 'codec_type' | 'codec_id' | 'flags'>,
  body: Uint8Array,
  { decode, present }: { decode: number; present: number } = { decode: 0, present: 0 },
): MediaPacket => ({
  ...parts,
  ...{ dts: decode, pts: present, size: body.length, data: Buffer.from(body) },
})

const isNewer = (codec: FragmentTrack['codec']): codec is NewerCodec =>
  codec === 'hevc' || codec === 'av1'

/** What an ingest is told before anything comes, as the encoder program tells it of H.264. */
function metadata(codec: NewerCodec, rendition: Rendition): MediaPacket {
  const body = Amf.encodeAmf0Data({
    cmd: '@setDataFrame',
    method: 'onMetaData',
    dataObj: {
      width: rendition.width,
      height: rendition.height,
      framerate: rendition.framesPerSecond,
      videodatarate: rendition.videoBitrateKbps,
      videocodecid: fourCharacterNumber(codec),
      audiodatarate: rendition.audioBitrateKbps,
      audiosamplerate: rendition.audioSampleRateHz,
      stereo: rendition.audioChannels === 2,
      audiocodecid: aacCodec,
    },
  })
  return packet({ codec_type: dataTag, codec_id: 0, flags: flag.data }, body)
}

function headOf({ codec, configuration }: FragmentTrack): MediaPacket {
  if (!isNewer(codec))
    return packet(
      { codec_type: audioTag, codec_id: aacCodec, flags: flag.audioHead },
      Buffer.concat([Buffer.of(aacByte, aacHead), configuration]),
    )
  return packet(
    { codec_type: videoTag, codec_id: fourCharacterNumber(codec), flags: flag.videoHead },
    enhancedHead(codec, configuration),
  )
}

function frameOf({
  track,
  decodeSeconds,
  presentSeconds,
  isKey,
  bytes,
}: FragmentSample): MediaPacket {
  const times = {
    decode: Math.round(decodeSeconds * 1000),
    present: Math.round(presentSeconds * 1000),
  }
  const { codec } = track
  if (!isNewer(codec))
    return packet(
      { codec_type: audioTag, codec_id: aacCodec, flags: flag.audio },
      Buffer.concat([Buffer.of(aacByte, aacFrame), bytes]),
      times,
    )
  const offsetMilliseconds = times.present - times.decode
  return packet(
    {
      codec_type: videoTag,
      codec_id: fourCharacterNumber(codec),
      flags: isKey ? flag.keyframe : flag.frame,
    },
    enhancedFrame(codec, { isKey, offsetMilliseconds, bytes }),
    times,
  )
}

/** How many samples of a channel a frame of AAC has (ISO/IEC 14496-3). */
const aacFrameSamples = 1024

/**
 * Puts the first frame of each track where it belongs: its muxer has both tracks begin at nothing, and the
 * first frame of the later one stand for longer. Gives frames in their order, each first one with the second.
 */
function beginningsMended(
  rendition: Rendition,
): (samples: readonly FragmentSample[]) => FragmentSample[] {
  const first = new Map<FragmentTrack, FragmentSample | null>()
  const frameSeconds = ({ codec }: FragmentTrack): number =>
    codec === 'aac' ? aacFrameSamples / rendition.audioSampleRateHz : 1 / rendition.framesPerSecond
  return (samples) =>
    samples.flatMap((sample) => {
      const held = first.get(sample.track)
      if (held === null) return [sample]
      first.set(sample.track, held ? null : sample)
      if (!held) return []
      const apart = sample.decodeSeconds - held.decodeSeconds
      const early = Math.max(0, apart - frameSeconds(sample.track))
      const decodeSeconds = held.decodeSeconds + early
      return [{ ...held, decodeSeconds, presentSeconds: held.presentSeconds + early }, sample]
    })
}

/**
 * What an encoder program hands over as MP4 in fragments, as the messages in which RTMP carries it: the
 * newer codecs by their four characters, AAC as ever. Throws, in words, on what is no such stream.
 */
export function fragmentPackets(rendition: Rendition): (piece: Buffer) => MediaPacket[] {
  const read = fragmentReader()
  const mended = beginningsMended(rendition)
  let hasHeads = false
  return (piece) => {
    const { tracks, samples } = read(piece)
    const heads: MediaPacket[] = []
    if (!hasHeads && tracks.length > 0) {
      hasHeads = true
      const codec = tracks.map((track) => track.codec).find(isNewer)
      if (!codec) throw new Error('No picture of a newer codec came.')
      heads.push(metadata(codec, rendition), ...tracks.map(headOf))
    }
    return [...heads, ...mended(samples).map(frameOf)]
  }
}
