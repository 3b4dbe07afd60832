import { ALL_FORMATS, BlobSource, Input } from 'mediabunny'

/** What a moving picture says of itself. */
export interface MediaFacts {
  width: number
  height: number
  framesPerSecond: number
  durationSeconds: number
  codec: string
}

/** Packets enough to know the frame rate by. */
const packetsCounted = 200

/** Reads size, frame rate, length and codec of a media file. Throws with words for a person where it has no picture that can be read. */
export async function readMediaFile(file: Blob): Promise<MediaFacts> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS })
  try {
    const track = await input.getPrimaryVideoTrack().catch(() => {
      throw new Error('It is damaged, or no media file of a kind that can be read.')
    })
    if (!track) throw new Error('There is no moving picture in it.')
    if (!(await track.canDecode()))
      throw new Error(
        `This browser cannot show its codec${track.codec ? ` (${track.codec})` : ''}.`,
      )
    const { averagePacketRate } = await track.computePacketStats(packetsCounted)
    const rate = Math.round(averagePacketRate * 1000) / 1000
    return {
      width: track.displayWidth,
      height: track.displayHeight,
      framesPerSecond: Math.min(240, Math.max(1, rate)),
      durationSeconds: await input.computeDuration(),
      codec: (await track.getCodecParameterString()) ?? track.codec ?? '',
    }
  } finally {
    input.dispose()
  }
}
