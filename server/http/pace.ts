/** Names are forgotten once they would have all their turns again. */
const maxNames = 10_000

/**
 * Turns for whoever asks by a name: `most` at once, and so many more with each second. Gives whether there
 * are as many as are asked for, which are taken then; by a clock that nobody sets.
 */
export function turnsAtAPace(
  { most, aSecond }: { most: number; aSecond: number },
  now: () => number = () => performance.now() / 1000,
): (name: string, count?: number) => boolean {
  const known = new Map<string, { left: number; at: number }>()
  return (name, count = 1) => {
    const at = now()
    const before = known.get(name)
    const left = before ? Math.min(most, before.left + (at - before.at) * aSecond) : most
    const isTaken = left >= count
    // Put last, so that the first are those not heard of for longest.
    known.delete(name)
    known.set(name, { left: isTaken ? left - count : left, at })
    const [oldest] = known.keys()
    if (known.size > maxNames && oldest !== undefined) known.delete(oldest)
    return isTaken
  }
}
