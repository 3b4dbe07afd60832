import type { MediaPacket } from 'node-media-server/src/protocol/rtmp.js'

/** Where a send goes. The key stands apart, since it is written nowhere. */
export interface Ingest {
  /** rtmp://, rtmps:// or srt://, without a key. */
  address: string
  key: string
}

/** A send on its way to an ingest. */
export interface Publisher {
  take(packet: MediaPacket): void
  /** What was taken and has not gone out yet. */
  readonly waitingBytes: number
  /** What has gone out since it was accepted. */
  readonly sentBytes: number
  /** Whether the ingest takes it; some say so only once something came. False where it ended before. */
  readonly accepted: Promise<boolean>
  close(): void
  /** Why it is over, in words without the key. */
  readonly ended: Promise<string>
}
