import {
  canvasArguments,
  type CanvasEncodes,
  canvasEncodesOf,
  type EncodedOutput,
  type EncodedShow,
  hasArchiveMix,
  softwareEncoders,
} from '../encoding'
import { type Encode, namesServed } from '../fit'
import { type CanvasName, isTaken } from '../show'
import { codecNames, renditionInWords } from '../words'

export const encoderScriptExtension = '.encode.sh'

/** A name as an environment variable takes it. */
const variableName = (...words: readonly string[]): string =>
  words
    .join('_')
    .toUpperCase()
    .replaceAll(/[^A-Z0-9]+/g, '_')
    .replaceAll(/^_+|_+$/g, '')
    .replace(/^(\d)/, '_$1')

const inputOf = (canvas: CanvasName): string => variableName('input', canvas)
const archiveMixInput = 'INPUT_ARCHIVE_MIX'

/** Words inside a comment or a message of the shell: on one line, and without what the shell would act on. */
const plain = (words: string): string => words.replaceAll(/[^\p{L}\p{N} .,:;×/()_-]/gu, ' ')

/** That an encode is planned on another device than the one that the script uses; empty where it is not. */
function deviceNote({ deviceId }: Encode, { computer }: EncodedShow): string[] {
  const device = computer.devices.find(({ id }) => id === deviceId)
  return device?.kind === 'graphics'
    ? [
        `# It is planned on ${plain(device.name)}; this makes it in software, which takes the processor.`,
      ]
    : []
}

/** That a send is planned to lower its bitrate, which no encoder of the script can while it runs. */
const loweringNotes = (outputs: readonly EncodedOutput[]): string[] =>
  outputs.some(({ sending }) => sending?.whenBehind === 'lower')
    ? [
        '# It is planned to lower its bitrate when the line falls short; FFmpeg cannot, and drops frames instead.',
      ]
    : []

/** The variable that each output's address or path is taken from, and what to put there. */
type Variables = ReadonlyMap<string, { name: string; explanation: string }>

function variablesOf(canvases: readonly CanvasEncodes[]): Variables {
  const used = new Set<string>()
  const unused = (wanted: string): string => {
    let name = wanted
    for (let count = 2; used.has(name); count += 1) name = `${wanted}_${count}`
    used.add(name)
    return name
  }
  const outputs = canvases.flatMap(({ encodes }) => encodes.flatMap(({ outputs: own }) => own))
  return new Map(
    outputs.map(({ key, feed, step, streamName }) => {
      if (feed.isRecording)
        return [
          key,
          {
            name: unused(variableName(feed.name, 'file')),
            explanation: plain(`path of the file for ${feed.name}, ending in .mkv`),
          },
        ]
      const ingest = feed.isBackup ? 'backup' : ''
      const stream = streamName ? `, stream ${streamName}` : ''
      return [
        key,
        {
          name: unused(variableName(feed.name, step > 0 ? `${step + 1}` : '', ingest, 'url')),
          explanation: plain(
            `server address and key of ${feed.name}${ingest && ' backup'}${stream}`,
          ),
        },
      ]
    }),
  )
}

/** An argument as the shell takes it: variables are filled in, all else stands as it is. */
function quoted(argument: string): string {
  if (argument.includes('$')) return `"${argument.replaceAll('\\', '\\\\')}"`
  return /^[\w:./=-]+$/.test(argument) ? argument : `'${argument}'`
}

/** Arguments by lines, each beginning with an option. */
const inLines = (args: readonly string[]): string =>
  args
    .map(quoted)
    .reduce<string[]>((lines, argument) => {
      const last = lines.at(-1)
      if (last === undefined || (argument.startsWith('-') && !/^-\d/.test(argument)))
        return [...lines, argument]
      return [...lines.slice(0, -1), `${last} ${argument}`]
    }, [])
    .join(' \\\n  ')

/** What the encoder's own log is read back by: the size of each encode, since its progress says none. */
const sizeLine = ({ rendition: { codec, width, height, framesPerSecond } }: Encode): string =>
  `echo 'Video: ${codec}, ${width}x${height}, ${framesPerSecond} fps' >&2`

function canvasCommand(canvas: CanvasEncodes, show: EncodedShow, variables: Variables): string[] {
  const args = canvasArguments(canvas, {
    input: ['-i', `$${inputOf(canvas.canvas)}`],
    archiveMix: ['-i', `$${archiveMixInput}`],
    addressOf: ({ key }) => `$${variables.get(key)?.name ?? ''}`,
  })
  const withOptions = inLines(args).replaceAll(/^( *)-i /gm, '$1${INPUT_OPTIONS:-} -i ')
  return [
    ...canvas.encodes.flatMap(({ encode, outputs }) => [
      `# ${plain(renditionInWords(encode.rendition))} for ${plain(namesServed(encode).join(', '))}`,
      ...deviceNote(encode, show),
      ...loweringNotes(outputs),
    ]),
    ...canvas.encodes.map(({ encode }) => sizeLine(encode)),
    `ffmpeg -hide_banner -nostdin -loglevel warning -stats \\\n  ${withOptions} &`,
    'encodes="$encodes $!"',
  ]
}

/** Asks the program that is there, before anything is sent, whether it can put each codec where it has to go. */
function carryingChecks(canvases: readonly CanvasEncodes[]): string[] {
  const pairs = canvases.flatMap(({ encodes }) =>
    encodes.flatMap(({ encode, outputs }) =>
      outputs.map(({ muxer }) => ({ codec: encode.rendition.codec, muxer })),
    ),
  )
  const distinct = new Map(pairs.map((pair) => [`${pair.codec} ${pair.muxer}`, pair]))
  return [...distinct.values()].map(
    ({ codec, muxer }) =>
      `carries ${softwareEncoders[codec].name} ${muxer} || { echo 'This FFmpeg does not put ${codecNames[codec]} into ${muxer}; a newer one may, or choose H.264 there.' >&2; exit 1; }`,
  )
}

/**
 * The plan as a POSIX shell script that runs FFmpeg, a general-purpose encoder: one process a canvas,
 * which decodes it once and splits each encode to all that it serves. Addresses, keys and inputs come
 * from environment variables; none is in the script. Graphics encoders differ from machine to machine,
 * so the software ones are used. What is logged can be read back by `readEncoderLog`, and holds no address.
 */
export function writeEncoderScript(show: EncodedShow): string {
  const canvases = canvasEncodesOf(show)
  const variables = variablesOf(canvases)
  const encodes = canvases.reduce((sum, { encodes: own }) => sum + own.length, 0)
  const needed = [
    ...canvases.map(({ canvas }) => [
      inputOf(canvas),
      `what shows the ${canvas} canvas: a file, a device or an address`,
    ]),
    ...(canvases.some(hasArchiveMix) ? [[archiveMixInput, 'what carries the archive mix']] : []),
    ...[...variables.values()].map(({ name, explanation }) => [name, explanation]),
  ]
  const handOffs = show.destinations.filter(
    (destination) => isTaken(destination) && destination.connection === 'hand-off',
  )
  return `${[
    '#!/bin/sh',
    `# ${plain(show.title)}: ${encodes} encodes, ${variables.size} outputs.`,
    '# Addresses and keys are taken from the environment, so that none stands in this file.',
    '# INPUT_OPTIONS goes before every input, as in INPUT_OPTIONS=-re to play a file at its own speed.',
    ...handOffs.map(({ name }) => `# ${plain(name)} takes the canvas by its own program.`),
    'set -eu',
    '# SVT-AV1 says its whole set-up otherwise.',
    'export SVT_LOG=1',
    ...needed.map(([variable, explanation]) => `: "\${${variable}:?${explanation}}"`),
    'carries() {',
    '  ffmpeg -loglevel quiet -nostdin -y -f lavfi -i color=size=320x180:rate=30:duration=0.2 -pix_fmt yuv420p \\',
    '    -c:v "$1" -b:v 200k -flags +global_header -f "$2" /dev/null',
    '}',
    ...carryingChecks(canvases),
    'encodes=""',
    `trap 'kill $encodes 2>/dev/null || true' INT TERM`,
    '',
    ...canvases.flatMap((canvas) => [...canvasCommand(canvas, show, variables), '']),
    'result=0',
    'for encode in $encodes; do wait "$encode" || result=$?; done',
    'exit $result',
  ].join('\n')}\n`
}
