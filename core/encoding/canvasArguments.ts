import { audioArguments } from './audioArguments'
import type { CanvasEncodes, EncodedOutput } from './outputs'
import { muxerOptions } from './programTables'
import { scalingFilters, videoArguments } from './videoArguments'

/** Where the canvas comes from and where each output goes; each as the reader of the arguments takes it. */
export interface CanvasProcess {
  /** FFmpeg's arguments that open the canvas, its picture and its sound: input 0. */
  input: readonly string[]
  /** Likewise for the archive mix, input 1; asked for where an output wants it. Empty where it is the second sound of input 0. */
  archiveMix: readonly string[]
  /** The address of an output, as a list of outputs takes it (`escapedForList`). */
  addressOf: (output: EncodedOutput) => string
  /** An encode that is only recorded goes on where it can't be written any more: without it all encodes would end. */
  goesOnUnrecorded?: boolean
}

const soundKey = ({ rendition, isArchiveMix }: EncodedOutput): string =>
  [
    isArchiveMix,
    rendition.audioCodec,
    rendition.audioBitrateKbps,
    rendition.audioChannels,
    rendition.audioSampleRateHz,
  ].join(' ')

/** Each distinct sound is encoded once; outputs choose theirs. */
function distinctSounds(outputs: readonly EncodedOutput[]): EncodedOutput[] {
  return [...new Map(outputs.map((output) => [soundKey(output), output])).values()]
}

/** What FFmpeg's fifo muxer can do of how a send behaves; it drops what is too long in its queue, and comes back at a keyframe. */
function fifoOptions({ sending, rendition }: EncodedOutput): string[] {
  if (!sending) return []
  const audioPacketsPerSecond = rendition.audioSampleRateHz / 1024
  const seconds = sending.whenBehind === 'hold' ? 60 : sending.mostWaitSeconds
  const packets = Math.ceil(seconds * (rendition.framesPerSecond + audioPacketsPerSecond))
  const options = [
    ...['attempt_recovery=1', 'recover_any_error=1', 'restart_with_keyframe=1'],
    `drop_pkts_on_overflow=${sending.whenBehind === 'hold' ? 0 : 1}`,
    `recovery_wait_time=${sending.reconnectAfterSeconds}`,
    `max_recovery_attempts=${sending.reconnectTries}`,
    `queue_size=${packets}`,
  ]
  return ['use_fifo=1', `fifo_options=\\'${options.join(':')}\\'`]
}

/** An address inside FFmpeg's list of outputs, where `|`, quotes and backslashes would end it. */
export const escapedForList = (address: string): string =>
  address.replaceAll(/[\\'|]/g, (mark) => `\\${mark}`)

/** The list of outputs of one encode. It is read twice, as a list and as options, so that quotes are escaped. */
function outputList(
  outputs: readonly EncodedOutput[],
  sounds: readonly EncodedOutput[],
  addressOf: CanvasProcess['addressOf'],
): string {
  return outputs
    .map((output) => {
      const sound = sounds.findIndex((each) => soundKey(each) === soundKey(output))
      const options = [
        `select=\\'v:0,a:${sound}\\'`,
        `f=${output.muxer}`,
        ...(muxerOptions[output.muxer] ? [muxerOptions[output.muxer]] : []),
        // A send that breaks off does not end the others.
        'onfail=ignore',
        ...fifoOptions(output),
      ]
      return `[${options.join(':')}]${addressOf(output)}`
    })
    .join('|')
}

/** One more output, which never fails. */
const nowhere = '|[f=null:onfail=ignore]-'

/** The filters that make the picture of every encode out of the canvas, which is decoded once. */
function pictureFilters({ encodes }: CanvasEncodes): string {
  const labels = encodes.map((_, index) => `[canvas${index}]`)
  const split = `[0:v:0]split=${encodes.length}${labels.join('')}`
  const scaled = encodes.map(
    ({ encode }, index) => `${labels[index]}${scalingFilters(encode.rendition)}[picture${index}]`,
  )
  return [split, ...scaled].join(';')
}

/**
 * FFmpeg's arguments, without the program, that make the picture of every encode of one canvas and
 * encode none: what decoding and scaling take by themselves.
 */
export const pictureOnlyArguments = (
  canvas: CanvasEncodes,
  { input }: Pick<CanvasProcess, 'input'>,
): string[] => [
  ...input,
  ...['-filter_complex', pictureFilters(canvas)],
  ...canvas.encodes.flatMap((_, index) => ['-map', `[picture${index}]`, '-f', 'null', '-']),
]

/** Whether any output of a canvas carries the archive mix. */
export const hasArchiveMix = ({ encodes }: CanvasEncodes): boolean =>
  encodes.some(({ outputs }) => outputs.some(({ isArchiveMix }) => isArchiveMix))

/** What comes out of one encode: its sounds, its picture as `picture` makes it, and where it goes. */
function outputArguments(
  { outputs }: CanvasEncodes['encodes'][number],
  { archiveMix, addressOf, goesOnUnrecorded = false }: CanvasProcess,
  picture: { from: string; encoded: readonly string[] },
): string[] {
  const archiveSound = archiveMix.length > 0 ? '1:a:0' : '0:a:1'
  const sounds = distinctSounds(outputs)
  return [
    ...['-map', picture.from],
    ...sounds.flatMap(({ isArchiveMix }) => ['-map', isArchiveMix ? archiveSound : '0:a:0']),
    ...picture.encoded,
    ...sounds.flatMap(({ rendition }, sound) => audioArguments(rendition, sound)),
    // What the input says of itself, as its length, is not so of what is made of it.
    ...['-map_metadata', '-1', '-flags', '+global_header', '-f', 'tee'],
    outputList(outputs, sounds, addressOf) +
      (goesOnUnrecorded && outputs.every(({ feed }) => feed.isRecording) ? nowhere : ''),
  ]
}

const inputArguments = (
  canvas: CanvasEncodes,
  { input, archiveMix }: CanvasProcess,
): readonly string[] => [...input, ...(hasArchiveMix(canvas) ? archiveMix : [])]

/**
 * FFmpeg's arguments, without the program, that make and send every encode of one canvas: the canvas
 * is decoded once, each encode runs once however many it serves, and their keyframes do not coincide.
 */
export const canvasArguments = (canvas: CanvasEncodes, process: CanvasProcess): string[] => [
  ...inputArguments(canvas, process),
  ...['-filter_complex', pictureFilters(canvas)],
  ...canvas.encodes.flatMap((each, index) =>
    outputArguments(each, process, {
      from: `[picture${index}]`,
      encoded: videoArguments(each.encode.rendition, index),
    }),
  ),
]

/**
 * FFmpeg's arguments, without the program, that send a picture which comes in encoded as it is to all whom
 * it serves; only its sound is encoded.
 */
export const passedOnArguments = (canvas: CanvasEncodes, process: CanvasProcess): string[] => [
  ...inputArguments(canvas, process),
  ...canvas.encodes.flatMap((each) =>
    outputArguments(each, process, { from: '0:v:0', encoded: ['-c:v', 'copy'] }),
  ),
]
