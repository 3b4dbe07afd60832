import type { FitSettings } from '../../show'
import { listInWords, mbpsInWords, pointsInWords } from '../../words'
import type { Gain } from './gains'
import { scoreUnitsPerPoint } from '../problem/problem'

const noChange = 'changes nothing'
const signed = (amount: number, words: string): string => (amount > 0 ? `+${words}` : words)

/** What a change brings, as in "+3.2 points, 1 encode less, frees 1.9 Mb/s"; points are priority × score. */
export function gainInWords(gain: Gain): string {
  if (gain.opensPlan)
    return gain.keptWeight < 0
      ? 'makes room for what has to be kept, without the others'
      : 'makes room for all that is wanted'
  const parts: string[] = []
  if (gain.keptWeight > 0) parts.push('room for more of what is left out')
  if (gain.keptWeight < 0) parts.push('leaves out more')
  if (gain.aboveFloor > 0) parts.push(`${gain.aboveFloor} more above the floor`)
  if (gain.aboveFloor < 0) parts.push(`${-gain.aboveFloor} more below the floor`)
  if (Math.abs(gain.points) >= 0.05)
    parts.push(
      `${gain.isAtLeast ? 'at least ' : ''}${signed(gain.points, pointsInWords(gain.points))}${gain.drops ? ' for the others' : ''}`,
    )
  if (gain.encodesFewer !== 0) {
    const count = Math.abs(gain.encodesFewer)
    parts.push(
      `${count} ${count === 1 ? 'encode' : 'encodes'} ${gain.encodesFewer > 0 ? 'less' : 'more'}`,
    )
  }
  if (gain.freedKbps >= 50) parts.push(`frees ${mbpsInWords(gain.freedKbps)}`)
  return parts.length === 0 ? noChange : listInWords(parts)
}

/** Whether a change makes a difference that is worth a line. */
export const changesSomething = (gain: Gain): boolean => gainInWords(gain) !== noChange

/** How far a plan that is not proven could be from the best, as in "at most 1.2 points better"; null where that is not known. */
export const gapInWords = (gapScoreUnits: number | null): string | null =>
  gapScoreUnits === null
    ? null
    : `at most ${pointsInWords(gapScoreUnits / scoreUnitsPerPoint)} better`

/** What "best possible" means, as in "proven within 0.5 points a destination". */
export const marginInWords = ({ marginPoints }: Pick<FitSettings, 'marginPoints'>): string =>
  marginPoints === 0
    ? 'proven to the hundredth of a point'
    : `proven within ${pointsInWords(marginPoints)} a destination`
