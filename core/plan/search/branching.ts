import { isIn } from './bitSets'
import type { Columns } from './columns'
import { type Subproblem, restricted } from './subproblems'

type Telling = 'device' | 'shape' | 'mask' | 'group' | 'below' | 'disk'

/** What of a member's columns may be told apart, the most telling first. */
const tellings: readonly Telling[] = ['device', 'shape', 'mask', 'group', 'below', 'disk']

/** A member of a subproblem, with its columns in play, and how much is said by telling them apart. */
interface Candidate {
  subproblem: number
  mine: Int32Array
  rank: number
}

/** Whether somebody is left out tells more than all else, and then whether anybody is below the floor. */
const firstQuestions: readonly { name: Telling; edge: number }[] = [
  { name: 'below', edge: 0 },
  { name: 'device', edge: -1 },
]

function rankOf(columns: Columns, mine: Int32Array): number {
  const isOpen = ({ name, edge }: (typeof firstQuestions)[number]): boolean =>
    mine.some((column) => columns[name][column]! <= edge) &&
    mine.some((column) => columns[name][column]! > edge)
  return firstQuestions.findLastIndex(isOpen)
}

/** The value up to which about half of the columns lie; null where all are alike. */
function middleOf(values: ArrayLike<number>, mine: Int32Array): number | null {
  const counts = new Map<number, number>()
  for (const column of mine) counts.set(values[column]!, (counts.get(values[column]!) ?? 0) + 1)
  if (counts.size < 2) return null
  const sorted = [...counts].sort(([a], [b]) => a - b)
  let below = 0
  const middle = sorted.findIndex(([, count]) => (below += count) * 2 >= mine.length)
  // With all but the last on the one side, the last is left for the other.
  return sorted[Math.min(middle, sorted.length - 2)]![0]
}

/**
 * Splits a node in two: of one member's columns in play, those on one side of a value and those on
 * the other; of the member of whom most is open. Every selection of columns is in one of the two.
 */
export function* branch(subproblems: readonly Subproblem[]): Generator<void, Subproblem[][]> {
  let chosen: Candidate = { subproblem: 0, mine: new Int32Array(), rank: -1 }
  for (const [subproblem, { columns, inPlay }] of subproblems.entries()) {
    yield
    for (let bit = 0; bit < columns.members.length; bit += 1) {
      const mine = inPlay.filter((column) => isIn(columns.mask[column]!, bit))
      const rank = rankOf(columns, mine)
      const isMore = rank === chosen.rank ? mine.length > chosen.mine.length : rank > chosen.rank
      if (isMore) chosen = { subproblem, mine, rank }
    }
  }
  const { columns } = subproblems[chosen.subproblem]!
  const { mine, rank } = chosen
  const question =
    firstQuestions[rank] ??
    tellings
      .map((name) => ({ name, edge: middleOf(columns[name], mine) }))
      .find(({ edge }) => edge !== null)
  if (!question) return []
  const { name, edge } = question
  const values = columns[name]
  const halves: Subproblem[][] = []
  for (const isFirst of [true, false]) {
    const { inPlay } = subproblems[chosen.subproblem]!
    const gone = new Set(mine.filter((column) => isFirst === values[column]! > edge!))
    const isKept = Uint8Array.from(inPlay, (column) => (gone.has(column) ? 0 : 1))
    const own = yield* restricted(subproblems[chosen.subproblem]!, isKept)
    halves.push(subproblems.map((each, index) => (index === chosen.subproblem ? own : each)))
  }
  return halves
}
