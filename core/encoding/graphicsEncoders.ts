import { type Codec, codecs, type Effort } from '../show'

/** A family of graphics encoders, as FFmpeg names them: how each effort is asked for, and what opening one takes besides. */
export interface GraphicsFamily {
  suffix: string
  /** How a person calls it. */
  name: string
  effortArguments: Record<Effort, readonly string[]>
  /** Before the input. */
  deviceArguments: readonly string[]
  /** After scaling, where pictures have to be brought onto the card. */
  filter: string
}

const presets = (
  option: string,
  [fastest, brisk, balanced, fine, finest]: readonly [string, string, string, string, string],
): Record<Effort, readonly string[]> => ({
  fastest: [option, fastest],
  brisk: [option, brisk],
  balanced: [option, balanced],
  fine: [option, fine],
  finest: [option, finest],
})

/** Written down from FFmpeg's own documentation, from memory; none of them opens where no such card is. */
export const graphicsFamilies = [
  {
    suffix: 'nvenc',
    name: 'Graphics encoder (NVENC)',
    effortArguments: presets('-preset', ['p1', 'p2', 'p4', 'p5', 'p7']),
    deviceArguments: [],
    filter: 'format=yuv420p',
  },
  {
    suffix: 'qsv',
    name: 'Graphics encoder (QSV)',
    effortArguments: presets('-preset', ['veryfast', 'faster', 'medium', 'slow', 'veryslow']),
    deviceArguments: [],
    filter: 'format=nv12',
  },
  {
    suffix: 'amf',
    name: 'Graphics encoder (AMF)',
    effortArguments: presets('-quality', ['speed', 'speed', 'balanced', 'quality', 'quality']),
    deviceArguments: [],
    filter: 'format=nv12',
  },
  {
    suffix: 'vaapi',
    name: 'Graphics encoder (VA-API)',
    effortArguments: presets('-compression_level', ['7', '6', '4', '2', '1']),
    deviceArguments: ['-vaapi_device', '/dev/dri/renderD128'],
    filter: 'format=nv12,hwupload',
  },
  {
    suffix: 'v4l2m2m',
    name: 'Graphics encoder (V4L2)',
    // It has none: every effort is the same.
    effortArguments: { fastest: [], brisk: [], balanced: [], fine: [], finest: [] },
    deviceArguments: [],
    filter: 'format=yuv420p',
  },
] as const satisfies readonly GraphicsFamily[]

/** FFmpeg's name of a graphics encoder. */
export const graphicsEncoderName = (codec: Codec, { suffix }: Pick<GraphicsFamily, 'suffix'>) =>
  `${codec}_${suffix}`

/** Which codecs each family has among the encoders that the program lists; listed is not yet opened. */
export const listedGraphics = (
  listed: ReadonlySet<string>,
): { family: GraphicsFamily; codecs: Codec[] }[] =>
  graphicsFamilies.flatMap((family) => {
    const own = codecs.filter((codec) => listed.has(graphicsEncoderName(codec, family)))
    return own.length > 0 ? [{ family, codecs: own }] : []
  })
