import { isLevelAbove, levelsOf } from '../../media'
import {
  audioBitrateLimitsKbps,
  audioCodecs,
  audioSampleRatesHz,
  bFramesLimits,
  type CanvasName,
  type Codec,
  codecs,
  type Destination,
  framesPerSecondChoices,
  keyframeIntervalLimitsSeconds,
  type Rules,
  type Size,
  videoBitrateLimitsKbps,
} from '../../show'
import {
  audioCodecNames,
  codecNames,
  countInWords,
  kbpsInWords,
  listInWords,
  protocolNames,
  sampleRateInWords,
  sizeInWords,
} from '../../words'
import type { Bound, Finding } from './finding'
import { findingsOf } from './findings'
import { longestHelpText, mostStatements, type Statement, statementsOf } from './statements'

/** What of a destination a help page can change. */
export interface RulesChange {
  rules: Partial<Rules>
  connection?: Partial<Pick<Destination, 'protocol' | 'serverAddress' | 'backupAddress'>>
}

/** One rule that was read: what it sets, in words, and from which words of the page. */
export interface RuleRead {
  /** Its own among those of one page. */
  name: string
  /** What it would be set to, in words. */
  value: string
  /** The places that it was read from, as they stand there. */
  words: string[]
  /** Why it is asked about rather than taken: its places disagree. Empty where they don't. */
  unsure: string
  change: RulesChange
}

/** What was read out of a text. */
export interface HelpPageRead {
  rules: RuleRead[]
  /** Understood, but no rule of a destination. */
  elsewhere: string[]
  notUnderstood: string[]
  /** Whether the text is longer than what is read of one. */
  isCut: boolean
}

type Topic = Finding['topic']
type Of<Name extends Topic> = Extract<Finding, { topic: Name }>
interface Said {
  finding: Finding
  statement: Statement
}

const pixels = ({ width, height }: Size): number => width * height
const unique = <Value>(values: readonly Value[]): Value[] => [...new Set(values)]
const quoted = ({ words, heading }: Statement): string => (heading ? `${heading}: ${words}` : words)
interface Limits {
  min: number
  max: number
}
const clamped = (value: number, { min, max }: Limits): number => Math.min(max, Math.max(min, value))
const isWithin =
  ({ min, max }: Limits) =>
  (value: number): boolean =>
    value >= min && value <= max

/** Those of which the strongest was said: a limit before the only ones before what is merely said or advised. */
function strongest<Item extends { bound: Bound }>(
  items: readonly Item[],
  order: readonly Bound[] = ['most', 'only', 'said', 'advised'],
): { bound: Bound; items: Item[] } | null {
  for (const bound of order) {
    const found = items.filter((item) => item.bound === bound)
    if (found.length > 0) return { bound, items: found }
  }
  return null
}

const isUpright = ({ width, height }: Size): boolean => height > width

/** A name such as 1080p is of either canvas; a size in pixels is of the one that it has the shape of, where the page has both. */
function sizesFor(found: readonly Of<'size'>[], canvas: CanvasName): Of<'size'>[] {
  const upright = canvas === 'vertical'
  const turned = found.map((finding) =>
    finding.isNamedOnly && upright
      ? { ...finding, size: { width: finding.size.height, height: finding.size.width } }
      : finding,
  )
  const fitting = turned.filter(({ size }) => isUpright(size) === upright)
  return (fitting.length > 0 ? fitting : turned).filter(
    ({ size: { width, height } }) =>
      Math.min(width, height) >= 16 && Math.max(width, height) <= 8192,
  )
}

function sizeRule(found: readonly Of<'size'>[], canvas: CanvasName): Rules['sizes'] | null {
  const said = strongest(sizesFor(found, canvas))
  if (!said) return null
  const sizes = said.items.map(({ size }) => size).sort((a, b) => pixels(b) - pixels(a))
  const [largest] = sizes
  if (!largest) return null
  if (said.bound !== 'only') return { type: 'up to', ...largest }
  const distinct = sizes.filter(
    (size, index) => sizes.findIndex((other) => sizeInWords(other) === sizeInWords(size)) === index,
  )
  return { type: 'one of', sizes: distinct.slice(0, 12) }
}

type FramesPerSecond = (typeof framesPerSecondChoices)[number]
const choiceWithin = (rate: number): FramesPerSecond =>
  framesPerSecondChoices.findLast((choice) => choice <= rate) ?? framesPerSecondChoices[0]

function frameRateRule(found: readonly Of<'frame rate'>[]): Rules['framesPerSecond'] | null {
  const said = strongest(found)
  if (!said) return null
  const rates = said.items.map(({ framesPerSecond }) => framesPerSecond)
  if (said.bound !== 'only') return { type: 'up to', most: choiceWithin(Math.max(...rates)) }
  const choices = unique(rates.map(choiceWithin)).sort((a, b) => a - b)
  return { type: 'one of', choices }
}

function highestLevel(
  found: readonly Of<'level'>[],
  spoken: readonly Codec[],
): Rules['highestLevel'] | null {
  const levels: Rules['highestLevel'] = { h264: null, hevc: null, av1: null }
  for (const { codec, level } of found) {
    const own = codec ?? spoken[0] ?? 'h264'
    const known = levelsOf(own).find((candidate) => Number(candidate) === Number(level))
    const before = levels[own]
    if (known && (before === null || isLevelAbove(known, before))) levels[own] = known
  }
  return Object.values(levels).some((level) => level !== null) ? levels : null
}

/** Reads the rules of a destination on a canvas out of what its help page says. Nothing is changed by reading. */
export function readHelpPage(text: string, canvas: CanvasName): HelpPageRead {
  const statements = statementsOf(text)
  const said: Said[] = statements.flatMap((statement) =>
    findingsOf(statement).map((finding) => ({ finding, statement })),
  )
  const of = <Name extends Topic>(topic: Name): Of<Name>[] =>
    said.filter(({ finding }) => finding.topic === topic).map(({ finding }) => finding as Of<Name>)
  const wordsOf = (...topics: Topic[]): string[] =>
    unique(
      said
        .filter(({ finding }) => topics.includes(finding.topic))
        .map(({ statement }) => quoted(statement)),
    )
  const rules: RuleRead[] = []
  const add = (
    name: string,
    value: string,
    change: Partial<Rules>,
    topics: Topic[],
    connection?: RulesChange['connection'],
    said: readonly (number | string)[] = [],
  ): void => {
    rules.push({
      name,
      value,
      words: wordsOf(...topics),
      unsure:
        unique(said).length > 1
          ? `The page says ${listInWords(unique(said).map(String), 'and')}.`
          : '',
      change: { rules: change, ...(connection ? { connection } : {}) },
    })
  }

  /** What different places say of the same, each in its words; what is said of one size is no contradiction to another. */
  const valuesOf = <Name extends Topic>(
    topic: Name,
    inWords: (found: Of<Name>) => string | null,
  ): string[] => {
    const withSize = new Set(
      said.filter(({ finding }) => finding.topic === 'size').map(({ statement }) => statement),
    )
    const places = said.filter(
      ({ finding, statement }) =>
        finding.topic === topic &&
        !withSize.has(statement) &&
        !/\d{3,4}\s?p\b|\dk\b/i.test(statement.heading),
    )
    const byPlace = new Map(
      places.map(({ finding, statement }) => [statement, inWords(finding as Of<Name>)]),
    )
    return [...byPlace.values()].filter((value) => value !== null)
  }

  const sizes = sizeRule(of('size'), canvas)
  if (sizes)
    add(
      'Sizes',
      sizes.type === 'up to'
        ? `up to ${sizeInWords(sizes)}`
        : `only ${listInWords(sizes.sizes.map(sizeInWords), 'or')}`,
      { sizes },
      ['size'],
    )
  const framesPerSecond = frameRateRule(of('frame rate'))
  if (framesPerSecond)
    add(
      'Frame rates',
      framesPerSecond.type === 'up to'
        ? `up to ${framesPerSecond.most} fps`
        : `only ${listInWords(framesPerSecond.choices.map(String), 'or')} fps`,
      { framesPerSecond },
      ['frame rate'],
    )
  const spokenCodecs = codecs.filter((codec) => of('codec').some((found) => found.codec === codec))
  if (spokenCodecs.length > 0)
    add(
      'Codecs',
      listInWords(
        spokenCodecs.map((codec) => codecNames[codec]),
        'or',
      ),
      { codecs: spokenCodecs },
      ['codec'],
    )
  const levels = highestLevel(of('level'), spokenCodecs)
  if (levels)
    add(
      'Highest level',
      codecs
        .filter((codec) => levels[codec] !== null)
        .map((codec) => `${codecNames[codec]} ${levels[codec]}`)
        .join(', '),
      { highestLevel: levels },
      ['level'],
    )
  const bitrates = of('video bitrate')
  const upper = strongest(bitrates)
  if (upper) {
    const maxKbps = clamped(
      Math.max(...upper.items.map(({ kbps }) => kbps)),
      videoBitrateLimitsKbps,
    )
    add(
      'Video bitrate at most',
      kbpsInWords(maxKbps),
      { mostVideoBitrateKbps: maxKbps },
      ['video bitrate'],
      undefined,
      upper.bound === 'most' || upper.bound === 'only'
        ? valuesOf('video bitrate', ({ bound, kbps }) =>
            bound === upper.bound ? kbpsInWords(kbps) : null,
          )
        : [],
    )
    const lower = bitrates.filter(({ bound, kbps }) => bound === 'least' && kbps < maxKbps)
    if (lower.length > 0) {
      const minKbps = clamped(Math.min(...lower.map(({ kbps }) => kbps)), {
        ...videoBitrateLimitsKbps,
        max: maxKbps,
      })
      add('Video bitrate at least', kbpsInWords(minKbps), { leastVideoBitrateKbps: minKbps }, [
        'video bitrate',
      ])
    }
  }
  const rate =
    framesPerSecond?.type === 'up to' ? framesPerSecond.most : framesPerSecond?.choices.at(-1)
  const intervals = [
    ...of('keyframe interval').map(({ seconds }) => seconds),
    ...of('keyframe frames').map(({ frames }) => frames / (rate ?? 30)),
  ].filter(isWithin(keyframeIntervalLimitsSeconds))
  if (intervals.length > 0) {
    const seconds = Math.min(...intervals)
    add(
      'Keyframe every',
      `${seconds} s at most`,
      { longestKeyframeIntervalSeconds: seconds },
      ['keyframe interval', 'keyframe frames'],
      undefined,
      valuesOf('keyframe interval', (found) => `${found.seconds} s`),
    )
  }
  const bFrames = of('B-frames').map(({ count }) => count)
  if (bFrames.length > 0) {
    const count = clamped(Math.min(...bFrames), bFramesLimits)
    add(
      'B-frames',
      count === 0 ? 'none' : `${count} at most`,
      { mostBFrames: count },
      ['B-frames'],
      undefined,
      valuesOf('B-frames', (found) => `${found.count}`),
    )
  }
  const spokenSounds = audioCodecs.filter((codec) =>
    of('audio codec').some((found) => found.codec === codec),
  )
  if (spokenSounds.length > 0)
    add(
      'Audio codec',
      listInWords(
        spokenSounds.map((codec) => audioCodecNames[codec]),
        'or',
      ),
      { audioCodecs: spokenSounds },
      ['audio codec'],
    )
  const loudest = strongest(of('audio bitrate'), ['most', 'only', 'said', 'advised', 'least'])
  if (loudest) {
    const kbps = clamped(
      Math.max(...loudest.items.map((item) => item.kbps)),
      audioBitrateLimitsKbps,
    )
    add(
      'Audio bitrate at most',
      kbpsInWords(kbps),
      { mostAudioBitrateKbps: kbps },
      ['audio bitrate'],
      undefined,
      loudest.bound === 'most'
        ? valuesOf('audio bitrate', (found) =>
            found.bound === 'most' ? kbpsInWords(found.kbps) : null,
          )
        : [],
    )
  }
  const sampleRates = audioSampleRatesHz.filter((hertz) =>
    of('sample rate').some((found) => found.hertz === hertz),
  )
  if (sampleRates.length > 0)
    add(
      'Sample rates',
      listInWords(sampleRates.map(sampleRateInWords), 'or'),
      { audioSampleRatesHz: sampleRates },
      ['sample rate'],
    )
  const channels = of('channels').map((found) => found.channels)
  if (channels.length > 0) {
    const mostAudioChannels = channels.includes(2) ? 2 : 1
    add(
      'Channels',
      mostAudioChannels === 2 ? 'mono or stereo' : 'mono only',
      { mostAudioChannels },
      ['channels'],
    )
  }
  const addresses = of('address')
  const main = addresses.find(({ isBackup }) => !isBackup)
  const spokenProtocols = of('protocol').map(({ protocol }) => protocol)
  const protocol =
    main?.protocol ??
    (['rtmps', 'rtmp', 'srt', 'whip'] as const).find((name) => spokenProtocols.includes(name))
  if (protocol)
    add('Protocol', protocolNames[protocol], {}, main ? ['address'] : ['protocol'], { protocol })
  if (main) add('Server address', main.address, {}, ['address'], { serverAddress: main.address })
  const backup = addresses.find(
    ({ isBackup, address }) => (isBackup && address !== main?.address) || false,
  )
  if (backup)
    // Only that there is one: with its address a second send would be on.
    add('Second ingest', `offered, at ${backup.address}`, { offersBackup: true }, ['address'])
  else if (of('backup').length > 0) {
    const offers = of('backup').some((found) => found.offers)
    add('Second ingest', offers ? 'offered' : 'none', { offersBackup: offers }, ['backup'])
  }
  const [keyLife] = of('key life')
  const [keyHours] = of('key hours')
  if (keyLife || keyHours) {
    const life = keyLife?.life ?? 'per session'
    const hours = keyHours ? clamped(keyHours.hours, { min: 0.1, max: 10_000 }) : null
    add(
      'Key',
      `${life === 'lasting' ? 'lasting' : 'new for every session'}${hours === null ? '' : `, good for ${countInWords(hours, 'hour')}`}`,
      { key: { life, hours } },
      ['key life', 'key hours'],
      undefined,
      of('key life').map((found) => found.life),
    )
  }
  const starts = of('start')
  // Whoever has to press says so; that it is live when it arrives is said in passing.
  const start = starts.find((found) => found.start === 'pressed on its page') ?? starts[0]
  if (start) add('Start', start.start, { start: start.start }, ['start'])
  const steps = of('renditions').map(({ count }) => count)
  if (steps.length > 0) {
    const mostRenditions = clamped(Math.max(...steps), { min: 1, max: 3 })
    add('Ladder', `up to ${countInWords(mostRenditions, 'rendition')}`, { mostRenditions }, [
      'renditions',
    ])
  }

  const isRule = ({ finding: { topic } }: Said): boolean =>
    topic !== 'profile' && topic !== 'rate control'
  const understood = new Set(said.map(({ statement }) => statement))
  const inRules = new Set(said.filter(isRule).map(({ statement }) => statement))
  return {
    rules,
    elsewhere: unique(
      statements
        .filter((statement) => understood.has(statement) && !inRules.has(statement))
        .map(quoted),
    ),
    isCut: text.length > longestHelpText || statements.length >= mostStatements,
    notUnderstood: unique(
      statements.filter((statement) => !understood.has(statement)).map(({ words }) => words),
    ),
  }
}

/** A destination with what was read and taken. */
export function withRulesRead(destination: Destination, taken: readonly RuleRead[]): Destination {
  return taken.reduce(
    (changed, { change: { rules, connection } }) => ({
      ...changed,
      ...connection,
      rules: { ...changed.rules, ...rules },
    }),
    destination,
  )
}
