import type { AudioCodec, Codec, EncodingProfile, Protocol, Rules, Size } from '../../show'

/** Whether a value is a most, a least, the only one, or only advised. */
export type Bound = 'most' | 'least' | 'only' | 'advised' | 'said'

/** One thing that a statement says of the rules, as it was understood. */
export type Finding =
  | { topic: 'size'; size: Size; bound: Bound; isNamedOnly: boolean }
  | { topic: 'frame rate'; framesPerSecond: number; bound: Bound }
  | { topic: 'video bitrate'; kbps: number; bound: Bound }
  | { topic: 'audio bitrate'; kbps: number; bound: Bound }
  | { topic: 'keyframe interval'; seconds: number }
  | { topic: 'keyframe frames'; frames: number }
  | { topic: 'B-frames'; count: number }
  | { topic: 'codec'; codec: Codec }
  | { topic: 'level'; codec: Codec | null; level: string }
  | { topic: 'profile'; profile: EncodingProfile }
  | { topic: 'rate control'; isConstant: boolean }
  | { topic: 'audio codec'; codec: AudioCodec }
  | { topic: 'sample rate'; hertz: number }
  | { topic: 'channels'; channels: 1 | 2 }
  | { topic: 'protocol'; protocol: Protocol }
  | { topic: 'address'; address: string; protocol: Protocol; isBackup: boolean }
  | { topic: 'key life'; life: Rules['key']['life'] }
  | { topic: 'key hours'; hours: number }
  | { topic: 'start'; start: Rules['start'] }
  | { topic: 'renditions'; count: number }
  | { topic: 'backup'; offers: boolean }
