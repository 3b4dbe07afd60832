import { lowestLevel } from '../media'
import { wireSecond } from '../network'
import type { Destination, Rendition } from '../show'
import { streamNames } from '../show'

export const playlistExtension = '.m3u8'

const hexadecimal = (value: number, digits: number): string =>
  value.toString(16).padStart(digits, '0')

const profileBytes = { baseline: '42e0', main: '4d40', high: '6400' } as const

/**
 * A codec as the CODECS attribute writes it: H.264 by RFC 6381 as avc1.PPCCLL, HEVC by ISO/IEC
 * 14496-15 Annex E, AV1 by its ISOBMFF binding; from memory of those texts.
 */
export function codecsAttribute(rendition: Rendition): string {
  const level = Number(lowestLevel(rendition) ?? 0)
  const audio = rendition.audioCodec === 'aac' ? 'mp4a.40.2' : 'opus'
  const video = {
    h264: `avc1.${profileBytes[rendition.encoder.profile]}${hexadecimal(Math.round(level * 10), 2)}`,
    hevc: `hvc1.1.6.L${Math.round(level * 30)}.90`,
    av1: `av01.0.${String(Math.round((Math.floor(level) - 2) * 4 + (level % 1) * 10)).padStart(2, '0')}M.08`,
  }[rendition.codec]
  return `${video},${audio}`
}

/**
 * A ladder as an HLS multivariant playlist (RFC 8216, section 4.3.4.2), the main rendition first.
 * BANDWIDTH is what the media take in MPEG-TS, in bit/s.
 */
export function writeMultivariantPlaylist(destination: Destination): string {
  const names = streamNames(destination)
  const lines = destination.renditions.flatMap((rendition, step) => {
    const { mediaBytes, framingBytes } = wireSecond(rendition, 'srt')
    const attributes = [
      `BANDWIDTH=${Math.ceil((mediaBytes + framingBytes) * 8)}`,
      `AVERAGE-BANDWIDTH=${(rendition.videoBitrateKbps + rendition.audioBitrateKbps) * 1000}`,
      `CODECS="${codecsAttribute(rendition)}"`,
      `RESOLUTION=${rendition.width}x${rendition.height}`,
      `FRAME-RATE=${rendition.framesPerSecond.toFixed(3)}`,
    ]
    const name = names[step] || `rendition${step === 0 ? '' : step + 1}`
    return [`#EXT-X-STREAM-INF:${attributes.join(',')}`, `${encodeURIComponent(name)}.m3u8`]
  })
  return `${['#EXTM3U', '#EXT-X-VERSION:6', '#EXT-X-INDEPENDENT-SEGMENTS', ...lines].join('\n')}\n`
}
