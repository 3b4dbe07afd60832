import { lowestIn } from './bitSets'
import type { Bound } from './lagrangianBound'
import type { Columns } from './columns'
import { minPoint } from './curves'
import { fullState, type Subproblem } from './subproblems'
import type { Resources } from './resources'
import type { Chosen, Found } from './structures'

/**
 * What plans use of everything but the upload: the same for many plans, so that it is kept once and
 * plans are compared by upload and worth alone.
 */
interface State {
  used: Float64Array
  /** Where each kind of column leads from here; null where that is too much. */
  after: Map<number, State | null>
}

/** A plan for some of the demands. */
interface Label {
  value: number
  /** Worth less the price of what is used; with the bound of the rest it limits what can come of it. */
  priced: number
  wire: number
  subproblem: number
  column: number
  before: Label | null
}

export interface LabelSearch {
  found: Found | null
  /** Whether nothing was cut for want of room, so that `found` is the best there is above `floor`. */
  isExhaustive: boolean
  labels: number
}

export interface LabelLimits {
  /** Labels kept for one set of demands. */
  each: number
  /** Labels made in all. */
  inAll: number
  /** Columns tried for one group of demands on one device, the best priced first, and of each kind. */
  columns: number
  ofKind: number
}

/** A look at what one more column makes of a plan takes about a microsecond. */
const looksBetweenYields = 4000
/** So many columns are sorted into kinds. */
const columnsBetweenYields = 8000

/** Columns of one group that use the same of everything but the upload. */
interface Kind {
  id: number
  /** Places in `inPlay`, the best priced first. */
  order: number[]
}

/**
 * Builds plans component by component and group by group, every encode at its lowest bitrate. Of
 * two plans for the same demands the one that is worth no more and uses no less is given up, and so
 * is every plan that the bound shows to stay below `floor`. Within narrow limits it is a quick
 * search for a good plan; where the limits are not reached, what it finds is the best. Yields now and
 * then, so that it can be stopped.
 */
export function* setLabels(
  subproblems: readonly Subproblem[],
  bound: Bound,
  resources: Resources,
  floor: number,
  limits: LabelLimits,
): Generator<void, LabelSearch> {
  const { capacity } = resources
  const maxWire = capacity[0]!
  const rest = new Float64Array(subproblems.length + 1)
  capacity.forEach((amount, index) => {
    rest[subproblems.length]! += bound.prices[index]! * amount
  })
  for (let subproblem = subproblems.length - 1; subproblem >= 0; subproblem -= 1)
    rest[subproblem] =
      rest[subproblem + 1]! +
      bound.subproblems[subproblem]!.best[fullState(subproblems[subproblem]!)]!
  const states = stateSpace(subproblems, resources)
  yield
  const origin: Label = { value: 0, priced: 0, wire: 0, subproblem: -1, column: -1, before: null }
  let isExhaustive = true
  let labels = 0
  let looks = 0
  let current = new Map<State, Label[]>([[states.origin, [origin]]])
  for (let index = 0; index < subproblems.length; index += 1) {
    const subproblem = subproblems[index]!
    const { columns, curves, inPlay, firstMove, moveSet, moveTo } = subproblem
    const { best, priced } = bound.subproblems[index]!
    const { kindsOfSet, isCut } = yield* kindsBySet(subproblem, priced, states.kindOf, limits)
    if (isCut) isExhaustive = false
    yield
    const full = fullState(subproblem)
    const buckets = new Map<number, Map<State, Label[]>>([[full, current]])
    const after = rest[index + 1]!
    for (let from = full; from > 0; from -= 1) {
      const bucket = buckets.get(from)
      if (!bucket) continue
      buckets.delete(from)
      if (!trim(bucket, limits.each)) isExhaustive = false
      yield
      for (let move = firstMove[from]!; move < firstMove[from + 1]!; move += 1) {
        const to = moveTo[move]!
        const restOfPart = best[to]! + after
        if (restOfPart === -Infinity) continue
        let target = buckets.get(to)
        if (!target) {
          target = new Map()
          buckets.set(to, target)
        }
        for (const [state, front] of bucket) {
          for (const kind of kindsOfSet[moveSet[move]!]!) {
            const bestPriced = priced[kind.order[0]!]!
            const next = states.follow(state, kind.id)
            if (!next) continue
            let list = target.get(next)
            for (const label of front) {
              const needed = floor - label.priced - restOfPart
              looks += 1
              if (looks % looksBetweenYields === 0) yield
              if (bestPriced < needed) continue
              for (const at of kind.order) {
                if (priced[at]! < needed) break
                const column = inPlay[at]!
                const point = minPoint(curves, columns.curve[column]!)
                const wire = label.wire + curves.wire[point]!
                if (wire > maxWire) continue
                if (!list) {
                  list = []
                  target.set(next, list)
                }
                list.push({
                  value: label.value + curves.value[point]!,
                  priced: label.priced + priced[at]!,
                  wire,
                  subproblem: index,
                  column,
                  before: label,
                })
                labels += 1
              }
            }
          }
          if (labels > limits.inAll) return { found: null, isExhaustive: false, labels }
        }
      }
    }
    current = buckets.get(0) ?? new Map<State, Label[]>()
    if (current.size === 0) return { found: null, isExhaustive, labels }
  }
  let winner: Label | null = null
  for (const front of current.values())
    for (const label of front) if (!winner || label.value > winner.value) winner = label
  return { found: winner && traced(winner, subproblems), isExhaustive, labels }
}

/** Keeps, per state, the labels that no other with as little upload equals in worth; at most `most` in all. Tells whether all of those were kept. */
function trim(bucket: Map<State, Label[]>, max: number): boolean {
  let count = 0
  for (const [state, labels] of bucket) {
    const front = undominated(labels)
    bucket.set(state, front)
    count += front.length
  }
  if (count <= max) return true
  const all = [...bucket].flatMap(([state, labels]) => labels.map((label) => ({ state, label })))
  all.sort((a, b) => b.label.priced - a.label.priced)
  bucket.clear()
  for (const { state, label } of all.slice(0, max)) {
    const front = bucket.get(state)
    if (front) front.push(label)
    else bucket.set(state, [label])
  }
  return false
}

function undominated(labels: Label[]): Label[] {
  if (labels.length < 2) return labels
  labels.sort((a, b) => a.wire - b.wire || b.value - a.value)
  let highest = -Infinity
  return labels.filter(({ value }) => {
    if (value <= highest) return false
    highest = value
    return true
  })
}

/** The columns of each set by kind; `isCut` where the limits left some out. */
function* kindsBySet(
  { columns, inPlay, firstOfSet }: Subproblem,
  priced: Float64Array,
  kindOf: (columns: Columns, column: number) => number,
  limits: LabelLimits,
): Generator<void, { kindsOfSet: Kind[][]; isCut: boolean }> {
  let isCut = false
  let since = 0
  const kindsOfSet: Kind[][] = []
  for (let set = 0; set + 1 < firstOfSet.length; set += 1) {
    const [from, to] = [firstOfSet[set]!, firstOfSet[set + 1]!]
    const order = Array.from({ length: to - from }, (_, index) => from + index)
    order.sort((a, b) => priced[b]! - priced[a]!)
    const kinds = new Map<number, Kind>()
    const onDevice = new Map<number, number>()
    for (const at of order) {
      const column = inPlay[at]!
      // So many for each device, and few of each kind, so that a short list is a varied one.
      const device = columns.device[column]!
      const count = onDevice.get(device) ?? 0
      if (count >= limits.columns) {
        isCut = true
        continue
      }
      const id = kindOf(columns, column)
      const kind = kinds.get(id)
      if (kind && kind.order.length >= limits.ofKind) {
        isCut = true
        continue
      }
      onDevice.set(device, count + 1)
      if (kind) kind.order.push(at)
      else kinds.set(id, { id, order: [at] })
    }
    kindsOfSet.push([...kinds.values()])
    since += to - from
    if (since < columnsBetweenYields) continue
    since = 0
    yield
  }
  return { kindsOfSet, isCut }
}

/** The states that plans can be in. Resources that cannot run short are left out, so that fewer differ. */
function stateSpace(
  subproblems: readonly Subproblem[],
  resources: Resources,
): {
  origin: State
  kindOf: (columns: Columns, column: number) => number
  follow: (state: State, kind: number) => State | null
} {
  const { capacity } = resources
  const scarce = scarceResources(subproblems, resources)
  const kinds: Float64Array[] = []
  const kindIds = new Map<string, number>()
  const known = new Map<string, State>()
  const stateFor = (used: Float64Array): State => {
    const key = used.join(' ')
    const state = known.get(key)
    if (state) return state
    const fresh: State = { used, after: new Map() }
    known.set(key, fresh)
    return fresh
  }
  return {
    origin: stateFor(new Float64Array(capacity.length)),
    kindOf({ device, use: { first, resource, amount } }, column) {
      let key = `${device[column]!}`
      for (let entry = first[column]!; entry < first[column + 1]!; entry += 1)
        if (scarce[resource[entry]!]) key += ` ${resource[entry]!}:${amount[entry]!}`
      const id = kindIds.get(key)
      if (id !== undefined) return id
      const use = new Float64Array(capacity.length)
      for (let entry = first[column]!; entry < first[column + 1]!; entry += 1)
        if (scarce[resource[entry]!]) use[resource[entry]!]! += amount[entry]!
      kindIds.set(key, kinds.push(use) - 1)
      return kinds.length - 1
    },
    follow(state, kind) {
      const next = state.after.get(kind)
      if (next !== undefined) return next
      const used = state.used.slice()
      const use = kinds[kind]!
      let fits = true
      for (let index = 1; index < used.length; index += 1) {
        // Rounded, so that the same loads in another order are the same state.
        used[index] = Math.round((used[index]! + use[index]!) * 1e9) / 1e9
        if (used[index]! > capacity[index]!) fits = false
      }
      const reached = fits ? stateFor(used) : null
      state.after.set(kind, reached)
      return reached
    },
  }
}

/** Which resources could run short at all, taking for each member the most that a column in play uses. */
function scarceResources(subproblems: readonly Subproblem[], resources: Resources): boolean[] {
  const { capacity } = resources
  const max = new Float64Array(capacity.length)
  for (const { columns, inPlay } of subproblems) {
    const each = columns.members.map(() => new Float64Array(capacity.length))
    for (const column of inPlay) {
      const first = each[lowestIn(columns.mask[column]!)]!
      const { use } = columns
      for (let entry = use.first[column]!; entry < use.first[column + 1]!; entry += 1) {
        const index = use.resource[entry]!
        first[index] = Math.max(first[index]!, use.amount[entry]!)
      }
    }
    for (const uses of each) uses.forEach((amount, index) => (max[index]! += amount))
  }
  // A device that runs at most so many encodes is loaded by no more than the largest of them.
  const devices = resources.sessions - resources.load
  for (let device = 0; device < devices; device += 1) {
    const sessions = capacity[resources.sessions + device]!
    const largest = subproblems.reduce((so, { columns, inPlay }) => {
      let load = so
      for (const column of inPlay)
        if (columns.device[column] === device) load = Math.max(load, columns.load[column]!)
      return load
    }, 0)
    const load = resources.load + device
    max[load] = Math.min(max[load]!, sessions * largest)
  }
  return Array.from(max, (amount, index) => amount > capacity[index]!)
}

function traced(label: Label, subproblems: readonly Subproblem[]): Found {
  const chosen: Chosen[] = []
  for (let at: Label | null = label; at && at.subproblem >= 0; at = at.before) {
    const { columns, curves } = subproblems[at.subproblem]!
    const { subproblem, column } = at
    chosen.push({ subproblem, column, point: minPoint(curves, columns.curve[column]!) })
  }
  return { value: label.value, chosen: chosen.reverse() }
}
