import { type Encode, type EncodeFeed, encodesOf, namesServed } from '../fit'
import { lowestLevel } from '../media'
import {
  type CanvasName,
  type Effort,
  isTaken,
  type Rendition,
  type Sending,
  type Show,
  streamNames,
} from '../show'
import { renditionInWords } from '../words'

export const encoderScriptExtension = '.encode.sh'

/** FFmpeg's software encoders, and their names for how hard they work. */
const encoders = {
  h264: {
    name: 'libx264',
    presets: {
      fastest: 'superfast',
      brisk: 'veryfast',
      balanced: 'faster',
      fine: 'medium',
      finest: 'slow',
    },
  },
  hevc: {
    name: 'libx265',
    presets: {
      fastest: 'ultrafast',
      brisk: 'superfast',
      balanced: 'veryfast',
      fine: 'fast',
      finest: 'medium',
    },
  },
  av1: {
    name: 'libsvtav1',
    presets: { fastest: '12', brisk: '10', balanced: '9', fine: '8', finest: '6' },
  },
} as const satisfies Record<Rendition['codec'], { name: string; presets: Record<Effort, string> }>

const containers = { rtmp: 'flv', rtmps: 'flv', srt: 'mpegts', whip: 'whip' } as const

/** One place that an encode goes to: where its address comes from, its container, and its sound. */
interface Output {
  variable: string
  explanation: string
  container: string
  rendition: Rendition
  /** The archive mix comes from an input of its own. */
  isArchiveMix: boolean
  /** How it is sent; null for a file, of which nothing is dropped. */
  sending: Sending | null
}

/** A name as an environment variable takes it. */
const variableName = (...words: readonly string[]): string =>
  words
    .join('_')
    .toUpperCase()
    .replaceAll(/[^A-Z0-9]+/g, '_')
    .replaceAll(/^_+|_+$/g, '')
    .replace(/^(\d)/, '_$1')

const inputOf = (canvas: CanvasName): string => variableName('input', canvas)

/** Words inside a comment or a message of the shell: on one line, and without what the shell would act on. */
const plain = (words: string): string => words.replaceAll(/[^\p{L}\p{N} .,:;×/()_-]/gu, ' ')

type EncodedShow = Pick<Show, 'title' | 'destinations' | 'recordings' | 'computer'>

function outputsOf(show: EncodedShow, encode: Encode, used: Set<string>): Output[] {
  const unused = (wanted: string): string => {
    let name = wanted
    for (let count = 2; used.has(name); count += 1) name = `${wanted}_${count}`
    used.add(name)
    return name
  }
  const ownerOf = <Owner extends { id: string }>(
    owners: readonly Owner[],
    { ownerId }: EncodeFeed,
  ) => owners.find(({ id }) => id === ownerId) as Owner
  return encode.feeds.map((feed): Output => {
    if (feed.isRecording) {
      const recording = ownerOf(show.recordings, feed)
      return {
        variable: unused(variableName(recording.name, 'file')),
        explanation: plain(`path of the file for ${recording.name}, ending in .mkv`),
        container: 'matroska',
        rendition: recording.rendition,
        isArchiveMix: recording.mix === 'archive mix',
        sending: null,
      }
    }
    const destination = ownerOf(show.destinations, feed)
    const step = destination.renditions.findIndex(({ id }) => id === feed.renditionId)
    const streamName = streamNames(destination)[step]
    const ingest = feed.isBackup ? 'backup' : ''
    return {
      variable: unused(
        variableName(destination.name, step > 0 ? `${step + 1}` : '', ingest, 'url'),
      ),
      explanation: plain(
        `server address and key of ${destination.name} ${ingest}${streamName ? `, stream ${streamName}` : ''}`,
      ),
      container: containers[destination.protocol],
      rendition: destination.renditions[step] as Rendition,
      isArchiveMix: false,
      sending: destination.sending,
    }
  })
}

function videoArguments({ rendition }: Encode): string[] {
  const { codec, effort, videoBitrateKbps, framesPerSecond, bFrames, encoder } = rendition
  const { name, presets } = encoders[codec]
  const interval = Math.max(1, Math.round(rendition.keyframeIntervalSeconds * framesPerSecond))
  const isConstant = encoder.rateControl === 'constant'
  const level = lowestLevel(rendition)
  const filter = `scale=${rendition.width}:${rendition.height}:flags=${encoder.downscaling},fps=${framesPerSecond},format=yuv420p`
  const bitrates = [
    `-b:v ${videoBitrateKbps}k -maxrate:v ${videoBitrateKbps}k -bufsize:v ${videoBitrateKbps}k`,
    ...(isConstant && codec !== 'av1' ? [`-minrate:v ${videoBitrateKbps}k`] : []),
  ]
  const own = {
    h264: [
      `-profile:v ${encoder.profile}${level ? ` -level:v ${level}` : ''} -bf ${encoder.profile === 'baseline' ? 0 : bFrames}`,
      `-x264-params "keyint=${interval}:min-keyint=${interval}:scenecut=0:rc-lookahead=${encoder.lookAheadFrames}${isConstant ? ':nal-hrd=cbr' : ''}"`,
    ],
    hevc: [
      `-x265-params "log-level=warning:keyint=${interval}:min-keyint=${interval}:scenecut=0:bframes=${bFrames}:rc-lookahead=${Math.max(encoder.lookAheadFrames, bFrames + 1)}"`,
    ],
    av1: [`-g ${interval}`],
  }[codec]
  return [`-vf "${filter}"`, `-c:v ${name} -preset ${presets[effort]}`, ...bitrates, ...own]
}

const audioCodecs = { aac: 'aac', opus: 'libopus' } as const

/** Each distinct sound is encoded once; outputs choose theirs. */
function soundsOf(outputs: readonly Output[]): { key: string; output: Output }[] {
  const sounds = new Map<string, Output>()
  for (const output of outputs) {
    const key = soundKey(output)
    if (!sounds.has(key)) sounds.set(key, output)
  }
  return [...sounds].map(([key, output]) => ({ key, output }))
}

const soundKey = ({ rendition, isArchiveMix }: Output): string =>
  `${isArchiveMix} ${rendition.audioCodec} ${rendition.audioBitrateKbps} ${rendition.audioChannels} ${rendition.audioSampleRateHz}`

/** That an encode is planned on another device than the one that the script uses; empty where it is not. */
function deviceNote({ deviceId }: Encode, { computer }: EncodedShow): string[] {
  const device = computer.devices.find(({ id }) => id === deviceId)
  return device?.kind === 'graphics'
    ? [
        `# It is planned on ${plain(device.name)}; this makes it in software, which takes the processor.`,
      ]
    : []
}

/** What FFmpeg's fifo muxer can do of how a send behaves; it drops what is too long in its queue, and comes back at a keyframe. */
function fifoOptions({ sending, rendition }: Output): string {
  if (!sending) return ''
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
  return `:use_fifo=1:fifo_options=\\'${options.join(':')}\\'`
}

/** That a send is planned to lower its bitrate, which no encoder of the script can while it runs. */
const loweringNotes = (outputs: readonly Output[]): string[] =>
  outputs.some(({ sending }) => sending?.whenBehind === 'lower')
    ? [
        '# It is planned to lower its bitrate when the line falls short; FFmpeg cannot, and drops frames instead.',
      ]
    : []

function encodeCommand(
  encode: Encode,
  outputs: readonly Output[],
  { label, notes }: { label: string; notes: readonly string[] },
): string[] {
  const sounds = soundsOf(outputs)
  const hasArchiveMix = outputs.some(({ isArchiveMix }) => isArchiveMix)
  const input = inputOf(encode.canvas)
  const targets = outputs.map((output) => {
    const sound = sounds.findIndex(({ key }) => key === soundKey(output))
    const select = `select=\\'v:0,a:${sound}\\'`
    // A send that breaks off does not end the others.
    return `[${select}:f=${output.container}:onfail=ignore${fifoOptions(output)}]$${output.variable}`
  })
  return [
    `# Encode ${label}: ${plain(renditionInWords(encode.rendition))} for ${plain(namesServed(encode).join(', '))}`,
    ...notes,
    [
      `ffmpeg -hide_banner -nostdin -loglevel warning \${INPUT_OPTIONS:-} -i "$${input}"`,
      ...(hasArchiveMix ? ['\${INPUT_OPTIONS:-} -i "$INPUT_ARCHIVE_MIX"'] : []),
      '-map 0:v:0',
      ...sounds.map(({ output }) => `-map ${output.isArchiveMix ? 1 : 0}:a:0`),
      ...videoArguments(encode),
      ...sounds.map(({ output: { rendition } }, index) =>
        [
          `-c:a:${index} ${audioCodecs[rendition.audioCodec]}`,
          `-b:a:${index} ${rendition.audioBitrateKbps}k`,
          `-ac:a:${index} ${rendition.audioChannels}`,
          `-ar:a:${index} ${rendition.audioSampleRateHz}`,
        ].join(' '),
      ),
      '-flags +global_header -f tee',
      `"${targets.join('|')}" &`,
    ].join(' \\\n  '),
    'encodes="$encodes $!"',
  ]
}

/**
 * The plan as a POSIX shell script that runs FFmpeg, a general-purpose encoder, once an encode, each
 * split to all that it serves. Addresses, keys and inputs come from environment variables; none is in
 * the script. Graphics encoders differ from machine to machine, so the software ones are used.
 */
export function writeEncoderScript(show: EncodedShow): string {
  const used = new Set<string>()
  const encodes = encodesOf(show)
    .filter(({ isHandOff }) => !isHandOff)
    .map((encode) => ({ encode, outputs: outputsOf(show, encode, used) }))
    .filter(({ outputs }) => outputs.length > 0)
  const canvases = [...new Set(encodes.map(({ encode }) => encode.canvas))]
  const outputs = encodes.flatMap((item) => item.outputs)
  const needed = [
    ...canvases.map((canvas) => [
      inputOf(canvas),
      `what shows the ${canvas} canvas: a file, a device or an address`,
    ]),
    ...(outputs.some(({ isArchiveMix }) => isArchiveMix)
      ? [['INPUT_ARCHIVE_MIX', 'what carries the archive mix']]
      : []),
    ...outputs.map(({ variable, explanation }) => [variable, explanation]),
  ]
  const handOffs = show.destinations.filter(
    (destination) => isTaken(destination) && destination.connection === 'hand-off',
  )
  return `${[
    '#!/bin/sh',
    `# ${plain(show.title)}: ${encodes.length} encodes, ${outputs.length} outputs.`,
    '# Addresses and keys are taken from the environment, so that none stands in this file.',
    '# INPUT_OPTIONS goes before every input, as in INPUT_OPTIONS=-re to play a file at its own speed.',
    ...handOffs.map(({ name }) => `# ${plain(name)} takes the canvas by its own program.`),
    'set -eu',
    ...needed.map(([variable, explanation]) => `: "\${${variable}:?${explanation}}"`),
    'encodes=""',
    `trap 'kill $encodes 2>/dev/null || true' INT TERM`,
    '',
    ...encodes.flatMap(({ encode, outputs: own }, index) => [
      ...encodeCommand(encode, own, {
        label: `${index + 1}`,
        notes: [...deviceNote(encode, show), ...loweringNotes(own)],
      }),
      '',
    ]),
    'result=0',
    'for encode in $encodes; do wait "$encode" || result=$?; done',
    'exit $result',
  ].join('\n')}\n`
}
