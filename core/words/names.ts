import type {
  AudioCodec,
  Codec,
  Medium,
  NightPhase,
  PictureChoice,
  Protocol,
  ViewerScreen,
} from '../show'

/** How the trade writes what the document holds as plain words. */
export const codecNames = { h264: 'H.264', hevc: 'HEVC', av1: 'AV1' } as const satisfies Record<
  Codec,
  string
>
export const audioCodecNames = { aac: 'AAC', opus: 'Opus' } as const satisfies Record<
  AudioCodec,
  string
>
export const protocolNames = {
  rtmp: 'RTMP',
  rtmps: 'RTMPS',
  srt: 'SRT',
  whip: 'WHIP',
} as const satisfies Record<Protocol, string>
export const mediumNames = {
  cable: 'cable',
  wifi: 'Wi-Fi',
  mobile: 'mobile',
} as const satisfies Record<Medium, string>
export const screenNames = { phone: 'phone', desk: 'desk', tv: 'TV' } as const satisfies Record<
  ViewerScreen,
  string
>
export const pictureKindNames = {
  talking: 'talking, camera still',
  hands: 'hands and demonstrations',
  action: 'fast action',
  own: 'measured from my clip',
} as const satisfies Record<PictureChoice, string>

/** As in "on a phone", or for a lower step of a ladder "at its own size". */
export const judgedOnInWords = (screen: ViewerScreen | 'own size'): string =>
  screen === 'own size' ? 'at its own size' : `on a ${screenNames[screen]}`

export const nightPhaseNames = {
  'days before': 'Days before',
  before: 'Before',
  'going up': 'Going up',
  'on air': 'On air',
  'coming down': 'Coming down',
  after: 'After',
} as const satisfies Record<NightPhase, string>
