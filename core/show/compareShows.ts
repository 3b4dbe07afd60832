import { lineOf } from './line'
import type { Rendition } from './rendition'
import type { Show } from './show'

/** Which of two edited versions counts where they differ. */
export type Side = 'mine' | 'theirs'

/** One place in which two versions of a show, edited from the same base, do not agree. */
export interface Difference {
  /** Where it stands, readable: parts with a name are called by it, as in `sources "Bench camera" native width`. */
  place: string
  mine: unknown
  theirs: unknown
  /** Both were changed, so a person has to choose; otherwise only this side was. */
  changedBy: Side | 'both'
}

export interface Combination<Document> {
  combined: Document
  differences: Difference[]
}

type Part = Record<string, unknown>
/** What was measured in one go is one value: half of one measurement beside half of another says nothing. */
const indivisible: ReadonlySet<string> = new Set<keyof Show | keyof Show['computer']>([
  'ownPicture',
  'measured',
])
const isPart = (value: unknown): value is Part =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const isList = (value: unknown): value is (Part & { id: string })[] =>
  Array.isArray(value) && value.every((item) => isPart(item) && typeof item.id === 'string')

/** Deep equality of JSON values; the order of keys does not matter. */
export function isSameJson(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((item, index) => isSameJson(item, b[index]))
  if (!isPart(a) || !isPart(b)) return false
  const keys = Object.keys(a)
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => key in b && isSameJson(a[key], b[key]))
  )
}

/** "headroomPercent" → "headroom percent". */
const wordsOf = (key: string): string =>
  key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)

function nameOf(item: Part, sourceNames: ReadonlyMap<string, string>): string {
  if (typeof item.name === 'string') return item.name
  if (typeof item.sourceId === 'string') return sourceNames.get(item.sourceId) ?? item.sourceId
  return String(item.id)
}

/**
 * Brings two versions edited from the same base together, place by place (three-way merge).
 * What only one side changed is taken from that side; where both changed the same place, `choose`
 * decides. Lists of parts with an `id` are matched by it, so that adding, removing and reordering
 * are edits of their own. A part that one side removed and the other changed counts as changed by
 * both.
 * The documents are JSON values; none is altered.
 */
export function combineEdits<Document>(
  base: Document,
  mine: Document,
  theirs: Document,
  choose: (difference: Difference) => Side,
): Combination<Document> {
  const differences: Difference[] = []
  const sourceNames = new Map(
    [base, theirs, mine].flatMap((document) => {
      const sources = isPart(document) ? document.sources : undefined
      return isList(sources) ? sources.map((item) => [item.id, String(item.name)] as const) : []
    }),
  )

  function decide(
    place: string,
    ours: unknown,
    others: unknown,
    changedBy: Difference['changedBy'],
  ): Side {
    const difference = { place, mine: ours, theirs: others, changedBy }
    differences.push(difference)
    return changedBy === 'both' ? choose(difference) : changedBy
  }

  function changer(before: unknown, ours: unknown, others: unknown): Difference['changedBy'] {
    if (isSameJson(before, others)) return 'mine'
    return isSameJson(before, ours) ? 'theirs' : 'both'
  }

  function combineParts(place: string, before: Part, ours: Part, others: Part): Part {
    const keys = [...new Set([...Object.keys(others), ...Object.keys(ours)])]
    return Object.fromEntries(
      keys.flatMap((key) => {
        const at = `${place} ${wordsOf(key)}`.trim()
        const bring = indivisible.has(key) ? combineWhole : combine
        const value = bring(at, before[key], ours[key], others[key])
        // What may be absent and was taken away is no part any more.
        return value === undefined ? [] : [[key, value]]
      }),
    )
  }

  function combineLists(
    place: string,
    before: (Part & { id: string })[],
    ours: (Part & { id: string })[],
    others: (Part & { id: string })[],
  ): unknown[] {
    const byId = (list: typeof ours) => new Map(list.map((item) => [item.id, item]))
    const [beforeById, oursById, othersById] = [byId(before), byId(ours), byId(others)]
    const kept = new Map<string, unknown>()
    for (const id of new Set([...oursById.keys(), ...othersById.keys()])) {
      const item = oursById.get(id) ?? othersById.get(id)
      const at = `${place} "${item ? nameOf(item, sourceNames) : id}"`
      const value = combine(at, beforeById.get(id), oursById.get(id), othersById.get(id))
      if (value !== undefined) kept.set(id, value)
    }
    const order = combineOrders(
      place,
      [...beforeById.keys()],
      [...oursById.keys()],
      [...othersById.keys()],
    )
    return [...new Set([...order, ...kept.keys()])].flatMap((id) =>
      kept.has(id) ? [kept.get(id)] : [],
    )
  }

  /** The order of a list is an edit of its own only among the parts that both sides still have. */
  function combineOrders(
    place: string,
    before: string[],
    ours: string[],
    others: string[],
  ): string[] {
    const common = (list: string[]) => list.filter((id) => ours.includes(id) && others.includes(id))
    const [oursCommon, othersCommon] = [common(ours), common(others)]
    if (isSameJson(oursCommon, othersCommon)) return insertMissing(others, ours)
    const changedBy = changer(common(before), oursCommon, othersCommon)
    const side = decide(`${place} order`, oursCommon, othersCommon, changedBy)
    return side === 'mine' ? insertMissing(ours, others) : insertMissing(others, ours)
  }

  function combine(place: string, before: unknown, ours: unknown, others: unknown): unknown {
    if (isSameJson(ours, others)) return ours
    if (isPart(ours) && isPart(others) && isPart(before))
      return combineParts(place, before, ours, others)
    if (isList(ours) && isList(others) && isList(before))
      return combineLists(place, before, ours, others)
    return combineWhole(place, before, ours, others)
  }

  function combineWhole(place: string, before: unknown, ours: unknown, others: unknown): unknown {
    if (isSameJson(ours, others)) return ours
    return decide(place, ours, others, changer(before, ours, others)) === 'mine' ? ours : others
  }

  const combined = combine('', base, mine, theirs) as Document
  return { combined, differences }
}

/** Puts the items that only `other` has behind the neighbour they follow there. */
function insertMissing(order: readonly string[], other: readonly string[]): string[] {
  const result = [...order]
  other.forEach((id, index) => {
    if (result.includes(id)) return
    const neighbour = other[index - 1]
    result.splice(neighbour === undefined ? 0 : result.indexOf(neighbour) + 1, 0, id)
  })
  return result
}

type Parts = Pick<
  Show,
  'sources' | 'scenes' | 'sounds' | 'lines' | 'lineId' | 'destinations' | 'recordings' | 'computer'
>

/**
 * Mends what refers to parts that are gone, as is needed when each side changed one end: takes out
 * layers whose source is gone, ends the sharing of a vertical whose scene is gone or shares itself,
 * leaves each role to one scene, and lets go of lines, relays, sounds and devices that are no more.
 */
export function withoutOrphans<Document extends Parts>(document: Document): Document {
  const sourceIds = new Set(document.sources.map(({ id }) => id))
  const soundIds = new Set(document.sounds.map(({ id }) => id))
  const relayIds = new Set(
    document.destinations.filter(({ connection }) => connection === 'relay').map(({ id }) => id),
  )
  const deviceIds = new Set(document.computer.devices.map(({ id }) => id))
  const withKnownDevice = (rendition: Rendition): Rendition =>
    rendition.encoder.deviceId === null || deviceIds.has(rendition.encoder.deviceId)
      ? rendition
      : { ...rendition, encoder: { ...rendition.encoder, deviceId: null } }
  const ownVerticals = new Set(
    document.scenes.filter(({ verticalOf }) => verticalOf === null).map(({ id }) => id),
  )
  const roles = document.scenes.map(({ role }) => role)
  return {
    ...document,
    scenes: document.scenes.map((scene, index) => ({
      ...scene,
      role: scene.role !== null && roles.indexOf(scene.role) === index ? scene.role : null,
      verticalOf:
        scene.verticalOf !== null && ownVerticals.has(scene.verticalOf) ? scene.verticalOf : null,
      layers: scene.layers.filter(({ sourceId }) => sourceIds.has(sourceId)),
    })),
    sounds: document.sounds.map((sound) => ({
      ...sound,
      sourceId: sound.sourceId !== null && sourceIds.has(sound.sourceId) ? sound.sourceId : null,
      alsoHeardIn: sound.alsoHeardIn.filter((id) => soundIds.has(id)),
    })),
    lineId: lineOf(document).id,
    destinations: document.destinations.map((destination) => ({
      ...destination,
      relayId:
        destination.relayId !== null &&
        destination.connection !== 'relay' &&
        relayIds.has(destination.relayId)
          ? destination.relayId
          : null,
      renditions: destination.renditions.map(withKnownDevice),
    })),
    recordings: document.recordings.map((recording) => ({
      ...recording,
      rendition: withKnownDevice(recording.rendition),
    })),
  }
}
