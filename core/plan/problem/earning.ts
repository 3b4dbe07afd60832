import type { Choice, Shape } from './problem'

/** Whether one shape is smaller than another that is encoded the same way: in size, in frame rate, and in one of the two really. */
export function isSmaller(a: Shape, b: Shape): boolean {
  const [pixelsOfA, pixelsOfB] = [a.width * a.height, b.width * b.height]
  return (
    a.codec === b.codec &&
    a.effort === b.effort &&
    a.efficiency === b.efficiency &&
    pixelsOfA <= pixelsOfB &&
    a.framesPerSecond <= b.framesPerSecond &&
    (pixelsOfA < pixelsOfB || a.framesPerSecond < b.framesPerSecond)
  )
}

export interface EarningTerms {
  /** So many score units a larger shape has to be worth above a smaller one. */
  marginUnits: number
  /** What reaches the floor where no smaller one does has earned its place. */
  floorUnits: number
}

/** A choice with the most that it is worth at a bitrate or below where it has earned its place; null until it is asked for. */
interface Smaller {
  shape: Shape
  choice: Choice
  earned: Uint8Array | null
  highest: Int32Array | null
}

/** Takes back what is not worth enough above one smaller shape, whose list begins `from` places before. */
function takeBack(
  earned: Uint8Array,
  scores: Int32Array,
  highest: Int32Array,
  { from, marginUnits, floorUnits }: EarningTerms & { from: number },
): void {
  const last = highest.length - 1
  for (let at = Math.max(0, -from); at < scores.length; at += 1) {
    const units = scores[at]!
    const others = highest[Math.min(from + at, last)]!
    if (others < 0 || units >= others + marginUnits) continue
    if (units < floorUnits || others >= floorUnits) earned[at] = 0
  }
}

/** For each bitrate from `first` on, 1 where what a shape is worth earns its place above every smaller one. */
function earnedAbove(
  { first, scores }: Choice,
  smaller: readonly Smaller[],
  { marginUnits, floorUnits }: EarningTerms,
): Uint8Array {
  const earned = new Uint8Array(scores.length).fill(1)
  for (const other of smaller) {
    other.highest ??= highestUpTo(other.choice.scores, other.earned)
    const from = first - other.choice.first
    takeBack(earned, scores, other.highest, { from, marginUnits, floorUnits })
  }
  return earned
}

/** At each bitrate the most that a shape is worth there or below, where it has earned its place; -1 where it is worth nothing. */
function highestUpTo(scores: Int32Array, earned: Uint8Array | null): Int32Array {
  const upTo = new Int32Array(scores.length)
  let highest = -1
  for (let at = 0; at < scores.length; at += 1) {
    if ((earned === null || earned[at] !== 0) && scores[at]! > highest) highest = scores[at]!
    upTo[at] = highest
  }
  return upTo
}

/**
 * The choices of one demand, each with the bitrates at which its shape has earned its place: there it
 * is worth a margin more than every smaller shape that has earned its own, at no higher a bitrate. So
 * never more than the margin is given up for the smaller one.
 */
export function withEarnings(
  choices: readonly Choice[],
  shapes: readonly Shape[],
  terms: EarningTerms,
): Choice[] {
  const shapeOf = ({ shape }: Choice): Shape => shapes[shape] as Shape
  const size = (choice: Choice): number => {
    const { width, height, framesPerSecond } = shapeOf(choice)
    return width * height * framesPerSecond
  }
  const made = new Map<Choice, Choice>()
  const groups = new Map<string, Choice[]>()
  for (const choice of choices) {
    const { codec, effort, efficiency } = shapeOf(choice)
    const key = `${codec} ${effort} ${efficiency}`
    const group = groups.get(key)
    if (group) group.push(choice)
    else groups.set(key, [choice])
  }
  for (const alike of groups.values()) {
    const before: Smaller[] = []
    for (const choice of [...alike].sort((a, b) => size(a) - size(b))) {
      const smaller = before.filter(({ shape }) => isSmaller(shape, shapeOf(choice)))
      const earned = smaller.length > 0 ? earnedAbove(choice, smaller, terms) : null
      before.push({ shape: shapeOf(choice), choice, earned, highest: null })
      const { shape, first, scores, wireKbps, diskMegabytes } = choice
      made.set(choice, { shape, first, scores, earned, wireKbps, diskMegabytes })
    }
  }
  return choices.map((choice) => made.get(choice) as Choice)
}

/**
 * 1 for each bitrate from `first` up to `end` at which a shape has earned its place for several demands
 * that one encode serves: where it has for one of them, or where all of them accept no smaller one;
 * null where it has at all of them. `choices` are theirs of the shape, `accepted` the shapes that all
 * of them accept.
 */
export function earnedTogether(
  shapes: readonly Shape[],
  choices: readonly Choice[],
  accepted: readonly number[],
  { first, end }: { first: number; end: number },
): Uint8Array | null {
  const own = shapes[choices[0]!.shape] as Shape
  for (const { earned } of choices) if (earned === null) return null
  if (!accepted.some((other) => isSmaller(shapes[other] as Shape, own))) return null
  const together = new Uint8Array(end - first)
  for (const choice of choices) joinInto(together, choice.earned!, first - choice.first)
  return together
}

function joinInto(together: Uint8Array, earned: Uint8Array, from: number): void {
  for (let at = 0; at < together.length; at += 1) together[at]! |= earned[from + at]!
}
