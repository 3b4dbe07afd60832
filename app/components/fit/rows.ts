import {
  type Breach,
  encodesOf,
  type Send,
  sendsOf,
  sizesToOffer,
  takenRecordings,
} from '@green-mantle/core/fit'
import {
  encodedPictureOf,
  bitsPerPixel,
  bitsPerPixelWord,
  type JudgedOn,
  judgedOn,
  lowestLevel,
  pictureScore,
  scoreWord,
} from '@green-mantle/core/media'
import { recordingRules } from '@green-mantle/core/plan'
import {
  type Destination,
  type Recording,
  type Rendition,
  type Rules,
  type Show,
  type Size,
} from '@green-mantle/core/show'

/** What a picture is worth on one of the screens that it is judged on. */
interface ScreenScore {
  screen: JudgedOn
  score: number
  word: string
}

/** Everything that Fit shows of one send or recording. */
export interface FitRow {
  key: string
  name: string
  note: string
  canvas: Destination['canvas']
  rules: Rules
  rendition: Rendition
  /** null for a recording. */
  send: Send | null
  destination: Destination | null
  recording: Recording | null
  plan: Recording['plan']
  level: string | null
  bitsPerPixel: number
  bitsPerPixelWord: string
  /** The mean over all that it is judged on, by which it is planned. */
  score: number
  word: string
  /** By what it is judged on, the first before all: its viewers' screens, or for a lower step of a ladder its own size. */
  scores: readonly [ScreenScore, ...ScreenScore[]]
  breaches: Breach[]
  sizes: Size[]
  /** A letter for the encode; rows with the same one share it. */
  encodeLetter: string
}

const alphabet = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'

/** A to Z, and from the 27th on A2 to Z2, and so on. */
const encodeLetter = (index: number): string => {
  const round = Math.floor(index / alphabet.length)
  return `${alphabet[index % alphabet.length]}${round > 0 ? round + 1 : ''}`
}

const sameSize = (a: Size, b: Size): boolean => a.width === b.width && a.height === b.height

type RowStart = Pick<
  FitRow,
  | 'key'
  | 'name'
  | 'note'
  | 'canvas'
  | 'rules'
  | 'rendition'
  | 'send'
  | 'destination'
  | 'recording'
  | 'plan'
> & { screens: readonly JudgedOn[] }

/** One row a send, in the order of the destinations, and one a recording. */
export function fitRows(show: Show, breaches: readonly Breach[]): FitRow[] {
  const letters = new Map<string, string>()
  encodesOf(show).forEach(({ feeds }, index) => {
    const letter = encodeLetter(index)
    for (const { ownerId, renditionId } of feeds) letters.set(`${ownerId} ${renditionId}`, letter)
  })
  const sends = sendsOf(show).flatMap((send): RowStart[] => {
    const destination = show.destinations.find(({ id }) => id === send.destinationId)
    if (!destination) return []
    const { canvas, viewers, rules, note, plan, renditions } = destination
    const { rendition, name, key } = send
    const screens = judgedOn(viewers, renditions.indexOf(rendition))
    return [
      {
        key,
        name,
        note,
        canvas,
        screens,
        rules,
        rendition,
        send,
        destination,
        recording: null,
        plan,
      },
    ]
  })
  const recordings = takenRecordings(show.recordings).map((recording): RowStart => {
    const { id, name, canvas, viewers, rendition, plan } = recording
    const rules = recordingRules(recording, show)
    const screens = judgedOn(viewers, 0)
    const start = { key: id, name, note: 'to disk', canvas, screens, rules, rendition, plan }
    return { ...start, send: null, destination: null, recording }
  })
  return [...sends, ...recordings].map(({ screens, ...start }): FitRow => {
    const { rendition, destination, rules, canvas } = start
    const scoreOn = (screen: JudgedOn): ScreenScore => {
      const score = pictureScore(rendition, encodedPictureOf(show), screen)
      return { screen, score, word: scoreWord(score) }
    }
    const [first = 'desk', ...further] = screens
    const score = pictureScore(rendition, encodedPictureOf(show), screens)
    const bits = bitsPerPixel(rendition)
    const offered = sizesToOffer(rules, show.canvasPair[canvas])
    const isOffered = offered.some((size) => sameSize(size, rendition))
    const owner = destination ?? start.recording
    return {
      ...start,
      level: lowestLevel(rendition),
      bitsPerPixel: bits,
      bitsPerPixelWord: bitsPerPixelWord(bits, rendition.codec),
      score,
      word: scoreWord(score),
      scores: [scoreOn(first), ...further.map(scoreOn)],
      breaches: destination
        ? breaches.filter(
            (breach) =>
              breach.destinationId === destination.id && breach.renditionId === rendition.id,
          )
        : [],
      sizes: isOffered ? offered : [rendition, ...offered],
      encodeLetter: letters.get(`${owner?.id} ${rendition.id}`) ?? '',
    }
  })
}

/** The screens, each by itself, where a picture does not read the same on all of them. */
export const readApart = ({ scores, word }: FitRow): readonly ScreenScore[] =>
  scores.some((each) => each.word !== word) ? scores : []
