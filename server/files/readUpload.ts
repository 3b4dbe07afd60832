import { isMediaType, limitBytes, pictureLimits } from '@green-mantle/core/picture'
import { getRequestHeader, type H3Event } from 'h3'
import { imageSize } from 'image-size'
import type { NewFile } from '../database/files/fileStore'
import { newFileOf } from '../database/files/fileStore'
import { ProblemError } from '../http/problem'
import { BodyTooLarge, readBounded } from '../http/readBounded'
import { cleanSvgApart } from './cleanSvgApart'
import { spool } from './spool'

/** A file that was sent, checked, in the form in which it is kept. */
export interface Upload extends NewFile {
  removed: string[]
  /** Lets go of what was kept of it outside the store. */
  dispose(): Promise<void>
}

const megabytes = (bytes: number): string => `${bytes / 1_000_000} MB`

const refusal = (status: number, title: string, detail: string): ProblemError =>
  new ProblemError({ status, title, detail: `${detail} Nothing was stored.` })

const tooLarge = (limit: number): ProblemError =>
  refusal(413, 'The file is too large', `Files of this kind have at most ${megabytes(limit)}.`)

const bodyUpTo = (event: H3Event, limit: number): Promise<Buffer> =>
  readBounded(event, limit).catch((error: unknown) => {
    throw error instanceof BodyTooLarge ? tooLarge(limit) : error
  })

const inMemory = (
  mediaType: string,
  bytes: Buffer,
  size: { width: number; height: number },
  removed: string[] = [],
): Upload => ({
  ...newFileOf({ mediaType, bytes, ...size }),
  removed,
  dispose: () => Promise.resolve(),
})

const imageTypeNames: Record<string, string> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  webp: 'image/webp',
}

function checkedPicture(mediaType: string, bytes: Buffer): Upload {
  let facts: ReturnType<typeof imageSize>
  try {
    facts = imageSize(bytes)
  } catch {
    throw refusal(422, 'This is no picture', 'Its contents are not those of a PNG, JPEG or WebP.')
  }
  if (imageTypeNames[facts.type ?? ''] !== mediaType)
    throw refusal(
      422,
      'The picture is of another kind',
      `It says ${mediaType} and is ${facts.type}.`,
    )
  // A photograph that was taken on its side is shown upright.
  const isOnItsSide = (facts.orientation ?? 1) >= 5
  const [width, height] = isOnItsSide ? [facts.height, facts.width] : [facts.width, facts.height]
  if (Math.max(width, height) > pictureLimits.sidePixels)
    throw refusal(
      422,
      'The picture is too large',
      `It has ${width}×${height} pixels; at most ${pictureLimits.sidePixels} a side are taken.`,
    )
  return inMemory(mediaType, bytes, { width, height })
}

async function checkedSvg(bytes: Buffer): Promise<Upload> {
  const cleaned = await cleanSvgApart(bytes.toString('utf8'))
  if (!cleaned.ok) throw refusal(422, 'The SVG was not taken', `${cleaned.message}.`)
  const side = pictureLimits.sidePixels
  const scale = Math.min(1, side / Math.max(cleaned.width, cleaned.height))
  const size = {
    width: Math.max(1, Math.round(cleaned.width * scale)),
    height: Math.max(1, Math.round(cleaned.height * scale)),
  }
  return inMemory('image/svg+xml', Buffer.from(cleaned.svg, 'utf8'), size, cleaned.removed)
}

/** ISO base media ("ftyp" at the fifth byte) and Matroska or WebM (EBML) begin like this. */
function isMediaContainer(bytes: Buffer): boolean {
  return (
    bytes.subarray(4, 8).toString('latin1') === 'ftyp' ||
    bytes.subarray(0, 4).equals(Buffer.from([0x1a, 0x45, 0xdf, 0xa3]))
  )
}

/** Media may be large: what comes goes to a file, and from there to the store piece by piece. */
async function spooledMedia(event: H3Event, mediaType: string, limit: number): Promise<Upload> {
  if (Number(getRequestHeader(event, 'content-length') ?? 0) > limit) {
    await bodyUpTo(event, limit)
    throw tooLarge(limit)
  }
  const spooled = await spool(event.node.req as AsyncIterable<Buffer>, limit)
  if (!spooled) throw tooLarge(limit)
  if (!isMediaContainer(spooled.beginning)) {
    await spooled.remove()
    throw refusal(
      422,
      'This is no media file',
      'It begins like neither MP4, QuickTime, Matroska nor WebM.',
    )
  }
  const { hash, byteCount, pieces, remove } = spooled
  return {
    ...{ id: hash, mediaType, byteCount, width: null, height: null, pieces },
    removed: [],
    dispose: remove,
  }
}

/** Reads and checks a file that is sent; no pixel of it is encoded again, and an SVG loses what runs or loads. */
export async function readUpload(event: H3Event): Promise<Upload> {
  const mediaType = (getRequestHeader(event, 'content-type') ?? '').split(';')[0]?.trim() ?? ''
  const limit = limitBytes(mediaType)
  if (limit === null)
    throw refusal(
      415,
      'Files of this kind are not taken',
      'Taken are PNG, JPEG, WebP and SVG pictures, and MP4, QuickTime, Matroska and WebM media.',
    )
  if (isMediaType(mediaType)) return spooledMedia(event, mediaType, limit)
  const bytes = await bodyUpTo(event, limit)
  return mediaType === 'image/svg+xml' ? checkedSvg(bytes) : checkedPicture(mediaType, bytes)
}
