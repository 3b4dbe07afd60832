import { fewestSamplesForPercentile } from '../network'
import type { OrderChanges } from '../night'
import { lineOf, type Show } from '../show'
import { destinationChecks, type KeyRecord } from '../destinations'
import { soundChecks } from '../sound'
import type { Verdict } from '../fit'
import { rehearsalState } from '../rehearsal'

export const stepNames = [
  'canvases',
  'sound',
  'line',
  'destinations',
  'fit',
  'rehearse',
  'run-sheet',
] as const
export type StepName = (typeof stepNames)[number]

/** How far a step is, and why in words. */
export interface StepMark {
  state: 'settled' | 'attention' | 'not begun'
  words: string
}

/** What is known beside the document: the keys the server holds (null before it has said), and the time. */
interface Known {
  keys: readonly KeyRecord[] | null
  /** What of the order of the night is new since it was looked through; null while that is not known. */
  orderChanges?: OrderChanges | null
  now: Date
}

function canvasesMark(show: Show): StepMark {
  const layers = show.scenes.flatMap((scene) => scene.layers)
  if (layers.length === 0) return { state: 'not begun', words: 'no source placed yet' }
  const bare = (['landscape', 'vertical'] as const).find(
    (canvas) => !layers.some((layer) => layer[canvas].shown),
  )
  return bare
    ? { state: 'attention', words: `nothing is shown on the ${bare} canvas` }
    : { state: 'settled', words: 'settled' }
}

function soundMark(show: Show): StepMark {
  if (show.sounds.length === 0) return { state: 'not begun', words: 'no sound yet' }
  const [worst] = soundChecks(show)
  return worst && worst.tone !== 'note'
    ? { state: 'attention', words: worst.words }
    : { state: 'settled', words: 'settled' }
}

function lineMark(show: Show): StepMark {
  const count = lineOf(show).samples.length
  if (count === 0) return { state: 'not begun', words: 'no measurement yet' }
  return count < fewestSamplesForPercentile
    ? { state: 'attention', words: `measure ${fewestSamplesForPercentile} times or more` }
    : { state: 'settled', words: 'settled' }
}

function destinationsMark(show: Show, known: Known): StepMark {
  if (show.destinations.length === 0) return { state: 'not begun', words: 'no destination yet' }
  if (!show.destinations.some((destination) => destination.on))
    return { state: 'attention', words: 'no destination is on' }
  const [worst] = destinationChecks(show, known.keys, known.now)
  return worst ? { state: 'attention', words: worst.words } : { state: 'settled', words: 'settled' }
}

function fitMark(verdict: Verdict): StepMark {
  if (verdict.state === 'nothing yet') return { state: 'not begun', words: verdict.short }
  return verdict.state === 'fits'
    ? { state: 'settled', words: 'settled' }
    : { state: 'attention', words: verdict.short }
}

function rehearseMark(show: Show): StepMark {
  const state = rehearsalState(show)
  if (state.name === 'not yet') return { state: 'not begun', words: 'not rehearsed yet' }
  if (state.name === 'out of date')
    return { state: 'attention', words: 'the plan changed since it was rehearsed' }
  const words = `clean on ${state.ofHundred} of 100 nights`
  return state.isEnough ? { state: 'settled', words } : { state: 'attention', words }
}

function runSheetMark(show: Show, { orderChanges: changes }: Known): StepMark {
  if (show.runSheet.seen === null) return { state: 'not begun', words: 'not looked through yet' }
  const count = changes ? changes.added.length + changes.gone.length + changes.moved.length : 0
  return count === 0
    ? { state: 'settled', words: 'looked through' }
    : { state: 'attention', words: 'the show changed since it was looked through' }
}

/** The mark of each step in the bar. */
export function stepMarks(show: Show, verdict: Verdict, known: Known): Record<StepName, StepMark> {
  return {
    canvases: canvasesMark(show),
    sound: soundMark(show),
    line: lineMark(show),
    destinations: destinationsMark(show, known),
    fit: fitMark(verdict),
    rehearse: rehearseMark(show),
    'run-sheet': runSheetMark(show, known),
  }
}
