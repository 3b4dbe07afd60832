import { countInWords, kbpsInWords, mbpsInWords } from '../words'
import type { Show } from '../show'
import { type Budget, budgetOf } from './budget'
import type { Breach } from './breach'
import { allBreaches } from './rules'
import { overloads } from './overloads'
import { type Saving, savingsOf } from './saving'

export type VerdictState = 'fits' | 'attention' | 'fails' | 'nothing yet'

/** Whether the show fits, as a sentence, with what to do where it does not. */
export interface Verdict {
  state: VerdictState
  sentence: string
  /** A few words for a narrow place, as in "Fits, 0.5 Mb/s spare". */
  short: string
  advice: string
  budget: Budget
  breaches: Breach[]
  savings: Saving[]
}

function savingInWords(saving: Saving | undefined): string {
  if (!saving) return 'No single send can save that much: lower several, or switch some off.'
  if (saving.toVideoBitrateKbps === null) return `Switch ${saving.name} off.`
  const loss = Math.round(saving.scoreBefore) - Math.round(saving.scoreAfter)
  const cost = loss === 0 ? 'at no visible cost' : `${loss} ${loss === 1 ? 'point' : 'points'} less`
  return `Save on ${saving.name}: ${kbpsInWords(saving.toVideoBitrateKbps)} fits, ${cost}.`
}

/** Holds the whole show against its line and its destinations' rules. */
export function verdictOf(
  show: Pick<
    Show,
    | 'destinations'
    | 'recordings'
    | 'computer'
    | 'durationMinutes'
    | 'lines'
    | 'lineId'
    | 'pictureKind'
    | 'ownPicture'
    | 'canvasPair'
  >,
): Verdict {
  const budget = budgetOf(show)
  const breaches = allBreaches(show)
  const savings = savingsOf(show, budget)
  const found = { budget, breaches, savings }
  const sends = budget.sends.length
  if (sends === 0)
    return {
      ...found,
      state: 'nothing yet',
      sentence: 'Nothing is sent yet',
      short: 'No sends yet',
      advice:
        show.destinations.length === 0
          ? 'Add a destination, or open the demo show from Home.'
          : 'Switch a destination on.',
    }
  if (budget.upload.basis === 'no samples')
    return {
      ...found,
      state: 'nothing yet',
      sentence: 'The line is not measured yet',
      short: 'Line not measured',
      advice: 'Type in at least one upload measurement on Line.',
    }
  if (budget.spareKbps < 0)
    return {
      ...found,
      state: 'fails',
      sentence: `${countInWords(sends, 'send')} ${sends === 1 ? 'is' : 'are'} ${mbpsInWords(-budget.spareKbps)} too much for the line`,
      short: `${mbpsInWords(-budget.spareKbps)} too much`,
      advice: savingInWords(savings[0]),
    }
  const [overload] = overloads(show)
  if (overload)
    return {
      ...found,
      state: 'fails',
      sentence: `The line carries it, but ${overload.sentence}`,
      short: overload.short,
      advice: overload.advice,
    }
  const fits = `${countInWords(sends, 'send')} ${sends === 1 ? 'fits' : 'fit'} the line`
  if (breaches.length > 0)
    return {
      ...found,
      state: 'attention',
      sentence: `${fits}, but ${breaches.length === 1 ? 'a rule is' : `${breaches.length} rules are`} not kept`,
      short: breaches.length === 1 ? 'A rule is not kept' : `${breaches.length} rules are not kept`,
      advice: breaches[0]?.words ?? '',
    }
  return {
    ...found,
    state: 'fits',
    sentence: fits,
    short: `Fits, ${mbpsInWords(budget.spareKbps)} spare`,
    advice: '',
  }
}
