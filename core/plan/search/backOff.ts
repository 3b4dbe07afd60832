/** What may be of no use is tried less and less while it is of none. */
export interface BackOff {
  /** Asked at every chance. */
  isDue(): boolean
  /** To be told of every try. */
  tell(wasOfUse: boolean): void
}

/** After so many chances every one is due; after each try that was of no use twice as many are passed over as after the last. */
export function backOff(passedOverFirst = 0): BackOff {
  let passedOver = 0
  let left = passedOverFirst
  return {
    isDue() {
      if (left === 0) return true
      left -= 1
      return false
    },
    tell(wasOfUse) {
      passedOver = wasOfUse ? 0 : Math.max(1, 2 * passedOver)
      left = passedOver
    },
  }
}
