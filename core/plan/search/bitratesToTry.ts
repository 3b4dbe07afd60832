import type { Encode, EncodeUse, EncodeUses, ShapeRow, ShapeTable } from './planState'

/**
 * The bitrates worth trying for an encode in the shape of a row: the present one, those of the last plan, the
 * lowest and the highest that there is room for beside the rest of the plan, and round ones beside
 * these and beside the present one.
 */
export function bitratesToTry(
  uses: EncodeUses,
  plan: Pick<EncodeUse, 'uploadKbps'>,
  { serves, bitrate: present }: Encode,
  row: ShapeRow,
): number[] {
  const table = uses.tableOf(row)
  const tried: number[] = []
  if (table.accepted.length === 0) return tried
  const { scoreUnits, uploadKbps, accepted } = table
  const spare = uses.problem.uploadKbps - plan.uploadKbps + (uploadKbps[present] ?? 0)
  const highest = highestWithin(table, spare)
  // They are few, so that looking through them is quicker than a set.
  const tryOut = (bitrate: number): void => {
    if ((scoreUnits[bitrate] ?? -1) >= 0 && !tried.includes(bitrate)) tried.push(bitrate)
  }
  tryOut(present)
  tryOut(accepted[0]!)
  tryOut(highest)
  tryOut(present - 1)
  tryOut(present + 1)
  uses.lastBitrates(serves).forEach(tryOut)
  uses.roundBeside(present).forEach(tryOut)
  uses.roundBeside(highest).forEach(tryOut)
  return tried
}

/** The highest bitrate accepted that takes no more upload than there is, by halves: more bits take more of it. -1 where there is none. */
function highestWithin({ accepted, uploadKbps }: ShapeTable, availableKbps: number): number {
  let [low, high] = [0, accepted.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (uploadKbps[accepted[middle]!]! > availableKbps) high = middle
    else low = middle + 1
  }
  return accepted[low - 1] ?? -1
}
