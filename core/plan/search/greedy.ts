import { type Encode, type EncodeUses, solutionOfEncodes } from './planState'
import { type PartialPlan, stepsByOwner, withOwner } from './takingIn'

/**
 * A plan that is found at once. Where it leaves somebody out for whom there would be room if others stayed
 * below the floor, it is the one that has them stay there. null where one that must be kept does not fit.
 * Yields between owners, so that it can be stopped.
 */
export function* greedyPlan(uses: EncodeUses): Generator<void, Encode[] | null> {
  const plan = yield* takenIn(uses, [true, false])
  const leftOut = plan && solutionOfEncodes(uses, plan).worth.leftOutWeight
  if (leftOut === 0) return plan
  const sparing = yield* takenIn(uses, [false])
  if (!plan || !sparing) return plan ?? sparing
  return solutionOfEncodes(uses, sparing).worth.leftOutWeight < leftOut! ? sparing : plan
}

/**
 * Owners are taken in by how much they matter, each demand in the way that uses least of all there is, at
 * the lowest bitrate, above the floor first where that is said, shared where that is less; who does not
 * fit is left out.
 */
function* takenIn(uses: EncodeUses, tries: readonly boolean[]): Generator<void, Encode[] | null> {
  const { demands } = uses.problem
  const inOrder = stepsByOwner(uses.problem).sort(([a], [b]) => {
    const [first, second] = [demands[a!]!, demands[b!]!]
    return (
      Number(second.mustKeep) - Number(first.mustKeep) ||
      second.priority / second.count - first.priority / first.count
    )
  })
  let plan: PartialPlan = []
  for (const steps of inOrder) {
    const next = withOwner(uses, plan, steps, tries)
    yield
    if (next) plan = next
    else if (demands[steps[0]!]!.mustKeep) return null
  }
  return plan.map(([encode]) => encode)
}

/** The plan with its bitrates raised, always where that brings most for what it takes, as far as the upload and the disk allow. */
export function raised(uses: EncodeUses, encodes: readonly Encode[]): Encode[] {
  const { bitratesKbps, uploadKbps, diskMegabytes } = uses.problem
  const plan = encodes.map((encode) => ({ ...encode }))
  const tables = plan.map(({ serves, shape }) => uses.tableFor(serves, shape)!)
  let [upload, disk] = [0, 0]
  plan.forEach(({ bitrate }, index) => {
    upload += tables[index]!.uploadKbps[bitrate]!
    disk += tables[index]!.diskMegabytes[bitrate]!
  })
  for (;;) {
    let best: { index: number; bitrate: number; ratio: number } | null = null
    plan.forEach(({ bitrate: from }, index) => {
      const { scoreUnits, uploadKbps: wire, diskMegabytes: file } = tables[index]!
      for (let to = from + 1; to < bitratesKbps.length; to += 1) {
        const gain = scoreUnits[to]! - scoreUnits[from]!
        if (scoreUnits[to]! < 0 || gain <= 0) continue
        const more = wire[to]! - wire[from]!
        if (upload + more > uploadKbps || disk + file[to]! - file[from]! > diskMegabytes) break
        const ratio = gain / (more + 1)
        if (!best || ratio > best.ratio) best = { index, bitrate: to, ratio }
        break
      }
    })
    const step = best as { index: number; bitrate: number } | null
    if (!step) return plan
    const { uploadKbps: wire, diskMegabytes: file } = tables[step.index]!
    const from = plan[step.index]!.bitrate
    upload += wire[step.bitrate]! - wire[from]!
    disk += file[step.bitrate]! - file[from]!
    plan[step.index]!.bitrate = step.bitrate
  }
}
