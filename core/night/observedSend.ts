import { viewing } from '../simulation'
import type { SendHealth } from './health'

/** What viewers had of a send so far, seen in steps. */
export interface ObservedSend {
  awaySeconds: number
  /** How often the picture stood still, and for how long in all. */
  freezes: number
  frozenSeconds: number
  isFrozen: boolean
  /** For how long nothing has gone out now. */
  awayForSeconds: number
  /** Before anything went out nobody could see it stand still. */
  hasBegun: boolean
}

export const nothingObserved: ObservedSend = {
  awaySeconds: 0,
  freezes: 0,
  frozenSeconds: 0,
  isFrozen: false,
  awayForSeconds: 0,
  hasBegun: false,
}

/**
 * Adds the last `seconds` of a send. As in a simulated night, the picture stands still where the send is
 * behind or away, or nothing of its picture has gone out, for longer than a player holds (a working value):
 * who drops early is never far behind.
 */
export function observeSend(
  before: ObservedSend,
  {
    stage,
    behindSeconds,
    stillSeconds,
  }: Pick<SendHealth, 'stage' | 'behindSeconds' | 'stillSeconds'>,
  seconds: number,
): ObservedSend {
  if (stage === 'ended' || stage === 'ready') return before
  if (stage !== 'sending' && !before.hasBegun) return before
  const isAway = stage !== 'sending'
  const awayForSeconds = isAway ? before.awayForSeconds + seconds : 0
  const longest = Math.max(behindSeconds, stillSeconds, awayForSeconds)
  const isFrozen = longest > viewing.playerBufferSeconds
  return {
    hasBegun: true,
    isFrozen,
    awayForSeconds,
    awaySeconds: before.awaySeconds + (isAway ? seconds : 0),
    freezes: before.freezes + (isFrozen && !before.isFrozen ? 1 : 0),
    frozenSeconds: before.frozenSeconds + (isFrozen ? seconds : 0),
  }
}
