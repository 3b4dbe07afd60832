import type { EncodedOutput } from '@green-mantle/core/encoding'
import type { AudioCodec, Rendition } from '@green-mantle/core/show'
import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'
import type { SrtSeen } from './srtTally'

/** Where a send goes. The key stands apart, since it is written nowhere. */
export interface Ingest {
  /** rtmp://, rtmps://, srt://, or http(s):// for WHIP; without a key. */
  address: string
  key: string
}

/** The picture of an encode, as planned. */
export type SentPicture = Pick<Rendition, 'codec' | 'width' | 'height' | 'framesPerSecond'>

export const pictureOf = ({ rendition }: Pick<EncodedOutput, 'rendition'>): SentPicture => ({
  codec: rendition.codec,
  width: rendition.width,
  height: rendition.height,
  framesPerSecond: rendition.framesPerSecond,
})

/** How an ingest is to get the sound, which comes to the server as AAC. */
export interface SentSound {
  codec: AudioCodec
  bitrateKbps: number
  channels: number
}

export const soundOf = ({ rendition }: Pick<EncodedOutput, 'rendition'>): SentSound => ({
  codec: rendition.audioCodec,
  bitrateKbps: rendition.audioBitrateKbps,
  channels: rendition.audioChannels,
})

/** A send on its way to an ingest. */
export interface Publisher {
  take(packet: MediaPacket): void
  /** What was taken and has not gone out yet. */
  readonly waitingBytes: number
  /** What has gone out since it was accepted. */
  readonly sentBytes: number
  /** What is seen of it on the line, where its protocol tells; absent where bytes that went out got there. */
  readonly onLine?: (() => SrtSeen) | undefined
  /** Whether the ingest takes it; some say so only once something came. False where it ended before. */
  readonly accepted: Promise<boolean>
  close(): void
  /** Why it is over, in words without the key. */
  readonly ended: Promise<string>
}
