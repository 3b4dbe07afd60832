import { wholeNumber } from '../words'

/** What came of drawing and encoding for a while with nothing sent, in frames of all canvases. */
export interface TriedOnAir {
  drawn: number
  /** Due and not drawn, since drawing took too long. */
  lateByDrawing: number
  /** Drawn and left out of an encode, since that did not keep up. */
  lateByEncoder: number
}

/** So much in time is as good as all: a machine is held up for a moment now and then (ours). */
const inTimeShare = 0.995

/** The share of the frames that were due which were drawn and encoded in time; 0 where none was due. */
export function shareInTime({ drawn, lateByDrawing, lateByEncoder }: TriedOnAir): number {
  const due = drawn + lateByDrawing
  return due === 0 ? 0 : Math.max(0, 1 - (lateByDrawing + lateByEncoder) / due)
}

/** What was found, and what to make smaller where it was too much. */
export function triedInWords(tried: TriedOnAir): { isWell: boolean; words: string } {
  const due = tried.drawn + tried.lateByDrawing
  if (due === 0)
    return { isWell: false, words: 'Nothing was drawn: this browser held the window up.' }
  const share = shareInTime(tried)
  const found = `${(100 * share).toFixed(1)} % of ${wholeNumber(due)} frames were in time`
  if (share >= inTimeShare)
    return { isWell: true, words: `${found}: this computer draws and encodes this show.` }
  const remedy =
    tried.lateByEncoder > tried.lateByDrawing
      ? 'Encoding is too much. Fewer encodes of this window (sends that lower), smaller canvases or fewer frames a second help.'
      : 'Drawing is too much. Smaller canvases, fewer frames a second, or fewer moving and keyed sources help.'
  return { isWell: false, words: `${found}. ${remedy}` }
}
