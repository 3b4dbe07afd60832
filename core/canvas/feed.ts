import type { FeedState } from './parts'

/** Invented, as all of the simulated feed is. */
const givers = ['Ines', 'Tomas', 'Oda', 'Merle', 'Jonah', 'Pia', 'Anselm', 'Ruth'] as const
const deeds = ['gave to the fund', 'follows now', 'sent a seed', 'came back'] as const

/** An alert comes this often and stays this long, in seconds. */
export const alertEverySeconds = 9
export const alertStaysSeconds = 5
/** Each alert brings the goal this much nearer, in per cent. */
const percentEach = 2

/**
 * What goal bars and alerts show some seconds into the simulated feed; the same for the same second.
 * A goal that is reached starts again from what was set.
 */
export function feedAt(seconds: number, setPercent: number): FeedState {
  const count = Math.floor(seconds / alertEverySeconds)
  const isShown = seconds - count * alertEverySeconds < alertStaysSeconds
  // Steps that share no factor with the lists' lengths visit every entry.
  const giver = givers[(count * 3) % givers.length] ?? givers[0]
  const deed = deeds[(count * 5 + 1) % deeds.length] ?? deeds[0]
  const room = 100 - setPercent + percentEach
  return {
    percent: Math.min(100, setPercent + ((count * percentEach) % room)),
    alert: isShown ? `${giver} ${deed}` : null,
  }
}
