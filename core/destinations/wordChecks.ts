import type { Audience, Destination, Show, Thumbnail, WordRules } from '../show'
import { kilobytesInWords, listInWords } from '../words'
import type { DestinationCheck } from './destinationCheck'
import { textLength } from './textLength'

/** What is said of the show at one destination: its own words where it has some, else the show's. */
export interface SaidWords {
  title: string
  description: string
  category: string
  tags: string[]
  language: string
  audience: Audience
  thumbnail: Thumbnail | null
  /** Wall-clock time in the show's time zone. */
  scheduledAt: string
}

export function wordsAt(
  show: Pick<Show, 'title' | 'startsAt' | 'words'>,
  { words: own }: Pick<Destination, 'words'>,
): SaidWords {
  return {
    title: own.title ?? show.title,
    description: own.description ?? show.words.description,
    category: own.category ?? show.words.category,
    tags: own.tags ?? show.words.tags,
    language: own.language ?? show.words.language,
    audience: own.audience ?? show.words.audience,
    thumbnail: own.thumbnail ?? show.words.thumbnail,
    scheduledAt: own.scheduledAt ?? show.startsAt,
  }
}

/** How far a picture's shape may be from the wanted one before it would be cut or get bars. */
const ratioTolerance = 0.01

/** What is wrong with a thumbnail for a destination, in words; null where nothing is. */
export function thumbnailProblem(
  thumbnail: Thumbnail | null,
  rules: WordRules['thumbnail'],
): string | null {
  if (!rules || !thumbnail) return null
  const { ratioWidth, ratioHeight, leastWidth, mostBytes } = rules
  const wanted = ratioWidth / ratioHeight
  const shape = thumbnail.width / thumbnail.height
  if (Math.abs(shape / wanted - 1) > ratioTolerance)
    return `the thumbnail is ${thumbnail.width}×${thumbnail.height}, not ${ratioWidth}:${ratioHeight}`
  if (thumbnail.width < leastWidth)
    return `the thumbnail is ${thumbnail.width} px wide, at least ${leastWidth} are wanted`
  if (thumbnail.byteCount > mostBytes)
    return `the thumbnail has ${kilobytesInWords(thumbnail.byteCount)}, at most ${kilobytesInWords(mostBytes)} are taken`
  return null
}

/** A text held to its limit: as in "72 of 60 characters". null limits are none. */
export interface Counted {
  length: number
  max: number | null
  isTooLong: boolean
}

export function counted(text: string, max: number | null, rules: WordRules): Counted {
  const length = textLength(text, rules.countedIn)
  return { length, max, isTooLong: max !== null && length > max }
}

/** What a destination would not take of what is said there. */
export function wordChecks(
  show: Pick<Show, 'title' | 'startsAt' | 'words'>,
  destination: Destination,
): DestinationCheck[] {
  const { words: rules } = destination.rules
  const said = wordsAt(show, destination)
  const problems: string[] = []
  const tooLong = (what: string, text: string, max: number | null): void => {
    const { length, isTooLong } = counted(text, max, rules)
    if (isTooLong)
      problems.push(`the ${what} has ${length} ${rules.countedIn}, at most ${max} are taken`)
  }
  if (said.title.trim() === '') problems.push('there is no title')
  tooLong('title', said.title, rules.mostTitle)
  tooLong('description', said.description, rules.mostDescription)
  if (rules.mostTags !== null && said.tags.length > rules.mostTags)
    problems.push(`there are ${said.tags.length} tags, at most ${rules.mostTags} are taken`)
  for (const tag of said.tags) tooLong(`tag “${tag}”`, tag, rules.mostTagLength)
  if (!rules.audiences.includes(said.audience))
    problems.push(
      `it cannot be ${said.audience} there, only ${listInWords([...rules.audiences], 'or')}`,
    )
  const thumbnail = thumbnailProblem(said.thumbnail, rules.thumbnail)
  if (thumbnail) problems.push(thumbnail)
  const { id, name } = destination
  return problems.map((problem) => ({
    destinationId: id,
    area: 'words',
    tone: 'attention',
    words: `${name}: ${problem}.`,
  }))
}
