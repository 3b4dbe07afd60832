import type { Rendition } from '../show'
import { audioEncoders } from './programTables'

/** FFmpeg's arguments for the sound of a rendition, as the output's stream of sound number `index`. */
export const audioArguments = (
  rendition: Pick<
    Rendition,
    'audioCodec' | 'audioBitrateKbps' | 'audioChannels' | 'audioSampleRateHz'
  >,
  index: number,
): string[] => [
  ...[`-c:a:${index}`, audioEncoders[rendition.audioCodec]],
  ...[`-b:a:${index}`, `${rendition.audioBitrateKbps}k`],
  ...[`-ac:a:${index}`, `${rendition.audioChannels}`],
  ...[`-ar:a:${index}`, `${rendition.audioSampleRateHz}`],
]
