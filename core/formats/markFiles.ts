import type { Mark } from '../night'
import { writeCsv } from './csv'

/** A stretch of the show with a name, in milliseconds from where its times are counted. */
export interface Chapter {
  title: string
  startMilliseconds: number
  endMilliseconds: number
}

interface Counted {
  marks: readonly Mark[]
  /** What is at 0: the begin of the show, or of a recording. ISO 8601. */
  from: string
  until: string
  /** What is called as the show is: all that comes before the first mark. */
  title: string
}

const shortestMilliseconds = 1000

const oneLine = (text: string): string => text.replaceAll(/\s+/g, ' ').trim()

/** Marks with their times counted from `from`, first to last; what was over before then is left out. */
function countedMarks({ marks, from, until }: Omit<Counted, 'title'>) {
  const [origin, end] = [Date.parse(from), Date.parse(until)]
  return marks
    .map((mark, index) => ({
      ...mark,
      name: oneLine(mark.name) || `Mark ${index + 1}`,
      startMilliseconds: Math.max(0, Date.parse(mark.from) - origin),
      endMilliseconds: Date.parse(mark.until) - origin,
    }))
    .filter(
      ({ startMilliseconds, endMilliseconds }) =>
        endMilliseconds >= 0 && startMilliseconds <= end - origin,
    )
    .sort((a, b) => a.startMilliseconds - b.startMilliseconds)
}

/**
 * The marks as chapters that follow each other without a gap, as players want them: each begins at its
 * mark and ends where the next begins. Of two within a second the first gives way.
 */
export function chaptersOf(counted: Counted): Chapter[] {
  const length = Math.max(
    shortestMilliseconds,
    Date.parse(counted.until) - Date.parse(counted.from),
  )
  const starts = [
    { title: oneLine(counted.title), startMilliseconds: 0 },
    ...countedMarks(counted).map(({ name, startMilliseconds }) => ({
      title: name,
      startMilliseconds,
    })),
  ].filter(({ startMilliseconds }) => startMilliseconds < length)
  const kept = starts.filter(
    ({ startMilliseconds }, index) =>
      (starts[index + 1]?.startMilliseconds ?? Infinity) - startMilliseconds >=
      shortestMilliseconds,
  )
  return kept.map((chapter, index) => ({
    ...chapter,
    startMilliseconds: index === 0 ? 0 : chapter.startMilliseconds,
    endMilliseconds: kept[index + 1]?.startMilliseconds ?? length,
  }))
}

const padded = (value: number, digits: number): string => String(value).padStart(digits, '0')

/** "01:02:03.450", as WebVTT writes times. */
function timestamp(milliseconds: number): string {
  const whole = Math.round(milliseconds)
  const [seconds, minutes, hours] = [
    Math.floor(whole / 1000) % 60,
    Math.floor(whole / 60_000) % 60,
    Math.floor(whole / 3_600_000),
  ]
  return `${padded(hours, 2)}:${padded(minutes, 2)}:${padded(seconds, 2)}.${padded(whole % 1000, 3)}`
}

const vttText = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')

/** Chapters as WebVTT (W3C). */
export const writeVttChapters = (counted: Counted): string =>
  [
    'WEBVTT',
    ...chaptersOf(counted).map(
      ({ title, startMilliseconds, endMilliseconds }, index) =>
        `${index + 1}\n${timestamp(startMilliseconds)} --> ${timestamp(endMilliseconds)}\n${vttText(title)}`,
    ),
  ].join('\n\n') + '\n'

/** Chapters as the metadata file of FFmpeg; `=`, `;`, `#` and `\` are written with a `\` before them. */
export const writeMetadataChapters = (counted: Counted): string =>
  [
    ';FFMETADATA1',
    ...chaptersOf(counted).map(({ title, startMilliseconds, endMilliseconds }) =>
      [
        '[CHAPTER]',
        'TIMEBASE=1/1000',
        `START=${Math.round(startMilliseconds)}`,
        `END=${Math.round(endMilliseconds)}`,
        // One at the very end would take the line break with it.
        `title=${title.replace(/[\s\\]+$/, '').replaceAll(/[=;#\\]/g, String.raw`\$&`)}`,
      ].join('\n'),
    ),
  ].join('\n') + '\n'

/** "1:02:03 Name", one a line, as they are pasted below a replay. */
export const writeTimesList = (counted: Counted): string =>
  chaptersOf(counted)
    .map(
      ({ title, startMilliseconds }) =>
        `${timestamp(startMilliseconds).slice(0, 8).replace(/^0/, '')} ${title}`,
    )
    .join('\n') + '\n'

/** One row a mark, moments and stretches as they were made. */
export function writeMarksCsv(
  counted: Omit<Counted, 'title'>,
  sceneName: (sceneId: string) => string | undefined,
): string {
  const header = ['from_seconds', 'until_seconds', 'at', 'name', 'scene', 'by']
  const rows = countedMarks(counted).map((mark) => [
    mark.startMilliseconds / 1000,
    mark.endMilliseconds / 1000,
    mark.from,
    mark.name,
    mark.sceneId === null ? '' : (sceneName(mark.sceneId) ?? mark.sceneId),
    mark.who,
  ])
  return writeCsv([header, ...rows])
}
