import type { Codec } from '../show'

/*
 * What an encoder program hands over as MP4 in fragments (ISO/IEC 14496-12), read as it comes.
 */

/** What one track carries, and what a decoder of it has to know before it begins. */
export interface FragmentTrack {
  codec: Codec | 'aac'
  /** The decoder configuration record of a picture, or the AudioSpecificConfig of AAC. */
  configuration: Uint8Array
}

/** One frame of a picture or of sound, in the order in which it is decoded. */
export interface FragmentSample {
  track: FragmentTrack
  decodeSeconds: number
  presentSeconds: number
  isKey: boolean
  bytes: Uint8Array
}

export interface ReadFragments {
  /** Empty until the head has come. */
  tracks: readonly FragmentTrack[]
  samples: FragmentSample[]
}

/** No frame of the largest bitrate there is comes near. */
const mostBoxBytes = 16_000_000
const headBytes = 8

interface Box {
  type: string
  content: Uint8Array
}

const viewOf = ({ buffer, byteOffset, byteLength }: Uint8Array): DataView =>
  new DataView(buffer, byteOffset, byteLength)

/** The length and type of the box that begins at a place; null where its head has not all come. Throws on one of an impossible length. */
function boxHead(bytes: Uint8Array, at: number): { length: number; type: string } | null {
  if (at + headBytes > bytes.length) return null
  const length = viewOf(bytes).getUint32(at)
  const type = String.fromCharCode(...bytes.subarray(at + 4, at + headBytes))
  if (length < headBytes || length > mostBoxBytes)
    throw new Error(`A box of ${length} bytes is none of a stream in fragments.`)
  return { length, type }
}

/** The boxes in a stretch; what is cut off at its end is left out. */
function boxesOf(bytes: Uint8Array): Box[] {
  const boxes: Box[] = []
  for (let at = 0; ;) {
    const head = boxHead(bytes, at)
    if (!head || at + head.length > bytes.length) return boxes
    boxes.push({ type: head.type, content: bytes.subarray(at + headBytes, at + head.length) })
    at += head.length
  }
}

/** The content of the box at the end of a path; throws where there is none. */
function inside(bytes: Uint8Array, ...path: string[]): Uint8Array {
  let content = bytes
  for (const name of path) {
    const found = boxesOf(content).find(({ type }) => type === name)
    if (!found) throw new Error(`The box ${path.join('/')} is missing.`)
    content = found.content
  }
  return content
}

/** How far into a sample entry its own boxes begin (ISO/IEC 14496-12, 12.1.3 and 12.2.3). */
const entryBytes = { picture: 78, sound: 28 } as const
const fullBoxBytes = 4

/** Descriptors of MPEG-4 on the way to what a decoder of AAC needs (ISO/IEC 14496-1, 7.2.6), and the bytes of their own before the next. */
const descriptorPath = [
  { tag: 3, ownBytes: 3 },
  { tag: 4, ownBytes: 13 },
  { tag: 5, ownBytes: 0 },
] as const

/** The AudioSpecificConfig in an elementary stream descriptor; throws where it is not as such. */
function audioConfiguration(descriptor: Uint8Array): Uint8Array {
  let content = descriptor
  for (const { tag, ownBytes } of descriptorPath) {
    if (content[0] !== tag) throw new Error('The sound does not say how it is decoded.')
    let length = 0
    let at = 1
    for (let more = true; more && at <= 4; at += 1) {
      const byte = content[at] ?? 0
      length = length * 128 + (byte & 0x7f)
      more = (byte & 0x80) !== 0
    }
    content = content.subarray(at + ownBytes, at + length)
  }
  return content
}

const pictureEntries: Readonly<Record<string, { codec: Codec; record: string }>> = {
  avc1: { codec: 'h264', record: 'avcC' },
  hvc1: { codec: 'hevc', record: 'hvcC' },
  hev1: { codec: 'hevc', record: 'hvcC' },
  av01: { codec: 'av1', record: 'av1C' },
}

/** What the first sample entry of a track says; throws where it is of no codec that is planned. */
function trackOf(media: Uint8Array): FragmentTrack {
  const [entry] = boxesOf(inside(media, 'minf', 'stbl', 'stsd').subarray(fullBoxBytes + 4))
  const picture = pictureEntries[entry?.type ?? '']
  if (entry && picture) {
    const configuration = inside(entry.content.subarray(entryBytes.picture), picture.record)
    return { codec: picture.codec, configuration: configuration.slice() }
  }
  if (entry?.type !== 'mp4a') throw new Error(`A track of “${entry?.type ?? ''}” is not expected.`)
  const descriptor = inside(entry.content.subarray(entryBytes.sound), 'esds')
  const configuration = audioConfiguration(descriptor.subarray(fullBoxBytes))
  return { codec: 'aac', configuration: configuration.slice() }
}

interface TimedTrack {
  track: FragmentTrack
  /** Its unit of time is so many to the second. */
  timescale: number
}

/** Places of numbers behind version and flags, by whether times have 64 bits (ISO/IEC 14496-12, 8.3.2 and 8.4.2). */
const trackNumberAt = { short: 12, long: 20 } as const
const timescaleAt = { short: 12, long: 20 } as const
const width = (box: Uint8Array): 'short' | 'long' => (box[0] === 1 ? 'long' : 'short')

function tracksOf(movie: Uint8Array): Map<number, TimedTrack> {
  const tracks = new Map<number, TimedTrack>()
  for (const { type, content } of boxesOf(movie)) {
    if (type !== 'trak') continue
    const head = inside(content, 'tkhd')
    const media = inside(content, 'mdia')
    const mediaHead = inside(media, 'mdhd')
    const timescale = viewOf(mediaHead).getUint32(timescaleAt[width(mediaHead)])
    if (timescale === 0) throw new Error('A track without a unit of time.')
    const number = viewOf(head).getUint32(trackNumberAt[width(head)])
    tracks.set(number, { track: trackOf(media), timescale })
  }
  return tracks
}

/** Bits of the flags of tfhd and trun that say which numbers follow (ISO/IEC 14496-12, 8.8.7 and 8.8.8). */
const fragmentHas = {
  baseOffset: 0x1,
  entry: 0x2,
  duration: 0x8,
  size: 0x10,
  flags: 0x20,
} as const
const runHas = {
  offset: 0x1,
  firstFlags: 0x4,
  duration: 0x100,
  size: 0x200,
  flags: 0x400,
  composition: 0x800,
} as const
const isNoKey = 0x1_0000

/** Reads numbers of 32 bits one after the other. */
function numbersOf(box: Uint8Array): {
  flags: number
  next: () => number
  nextSigned: () => number
} {
  const view = viewOf(box)
  let at = fullBoxBytes
  const place = (): number => {
    at += 4
    return at - 4
  }
  return {
    flags: view.getUint32(0) & 0xff_ffff,
    next: () => view.getUint32(place()),
    nextSigned: () => view.getInt32(place()),
  }
}

function decodeTimeOf(box: Uint8Array): number {
  const view = viewOf(box)
  return width(box) === 'long'
    ? Number(view.getBigUint64(fullBoxBytes))
    : view.getUint32(fullBoxBytes)
}

/** What is said of a sample whose bytes come next. */
interface AnnouncedSample extends Omit<FragmentSample, 'bytes'> {
  size: number
}

/** The samples of one fragment, in the order of their bytes. Each box may say less than the one around it. */
function announced(
  fragment: Uint8Array,
  tracks: ReadonlyMap<number, TimedTrack>,
): AnnouncedSample[] {
  return boxesOf(fragment).flatMap(({ type, content }) => {
    if (type !== 'traf') return []
    const head = numbersOf(inside(content, 'tfhd'))
    const timed = tracks.get(head.next())
    if (!timed) throw new Error('A fragment of a track that was not announced.')
    const has = (bit: number): boolean => (head.flags & bit) !== 0
    if (has(fragmentHas.baseOffset)) throw new Error('A fragment that points elsewhere.')
    if (has(fragmentHas.entry)) head.next()
    const usual = {
      duration: has(fragmentHas.duration) ? head.next() : 0,
      size: has(fragmentHas.size) ? head.next() : 0,
      flags: has(fragmentHas.flags) ? head.next() : 0,
    }
    let decodeTime = decodeTimeOf(inside(content, 'tfdt'))
    return boxesOf(content).flatMap((box) => {
      if (box.type !== 'trun') return []
      const samples = samplesOf(box.content, usual)
      return samples.map(({ size, flags, duration, composition }): AnnouncedSample => {
        const decodeSeconds = decodeTime / timed.timescale
        decodeTime += duration
        return {
          ...{ track: timed.track, size, decodeSeconds },
          presentSeconds: decodeSeconds + composition / timed.timescale,
          isKey: (flags & isNoKey) === 0,
        }
      })
    })
  })
}

interface RunSample {
  duration: number
  size: number
  flags: number
  /** Later than it is decoded, in the track's unit. */
  composition: number
}

function samplesOf(run: Uint8Array, usual: Omit<RunSample, 'composition'>): RunSample[] {
  const numbers = numbersOf(run)
  const has = (bit: number): boolean => (numbers.flags & bit) !== 0
  const count = numbers.next()
  if (count > run.length) throw new Error('A run of more samples than it has room for.')
  if (has(runHas.offset)) numbers.next()
  const firstFlags = has(runHas.firstFlags) ? numbers.next() : null
  return Array.from({ length: count }, (_, index) => {
    const duration = has(runHas.duration) ? numbers.next() : usual.duration
    const size = has(runHas.size) ? numbers.next() : usual.size
    const flags = has(runHas.flags) ? numbers.next() : usual.flags
    const composition = has(runHas.composition) ? numbers.nextSigned() : 0
    return { duration, size, composition, flags: index === 0 ? (firstFlags ?? flags) : flags }
  })
}

/**
 * Reads a stream of MP4 in fragments, piece by piece as it comes, however it is cut. Each call gives
 * what is whole by then; it throws, in words, on what is no such stream, and is of no use after that.
 */
export function fragmentReader(): (piece: Uint8Array) => ReadFragments {
  let pending = new Uint8Array()
  let tracks: ReadonlyMap<number, TimedTrack> = new Map()
  let expected: AnnouncedSample[] = []

  function take({ type, content }: Box): FragmentSample[] {
    if (type === 'moov') tracks = tracksOf(content)
    else if (type === 'moof') expected = announced(content, tracks)
    if (type !== 'mdat') return []
    let at = 0
    const samples = expected.map(({ size, ...sample }): FragmentSample => {
      at += size
      return { ...sample, bytes: content.slice(at - size, at) }
    })
    if (at !== content.length) throw new Error('A fragment of another length than it says.')
    expected = []
    return samples
  }

  return (piece) => {
    const whole = new Uint8Array(pending.length + piece.length)
    whole.set(pending)
    whole.set(piece, pending.length)
    const boxes = boxesOf(whole)
    const used = boxes.reduce((sum, { content }) => sum + headBytes + content.length, 0)
    pending = whole.slice(used)
    const samples = boxes.flatMap(take)
    return { tracks: [...tracks.values()].map(({ track }) => track), samples }
  }
}
