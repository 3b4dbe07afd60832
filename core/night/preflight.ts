import { sceneChecks } from '../canvas'
import { destinationChecks } from '../destinations'
import { verdictOf } from '../fit'
import { lineOf, type Show } from '../show'
import { soundChecks } from '../sound'
import { countInWords, listInWords, mbpsInWords } from '../words'
import { knownTasks, newestSample, type NightFacts } from './knownDone'
import type { NightOrder } from './nightOrder'

export interface PreflightFacts extends NightFacts {
  /** The accounts of the show as their services say they are, by their id; null until that is known. */
  accounts: Readonly<Record<string, AccountState>> | null
  /** The files of the show's sources that are not kept here; null until that is known. */
  missingFiles: ReadonlySet<string> | null
  /** When each sound last moved its level here, ISO 8601, by its id. */
  heardAt: Readonly<Record<string, string>>
}

/** Whether a linked account is good to go live with. */
export interface AccountState {
  /** Whether it can still be used from here: not run out, not revoked. */
  isLinked: boolean
  /** null where its service does not say. */
  mayGoLive: boolean | null
  /** Where else somebody is logged in to it, in a way that may end a send: "a phone". */
  alsoOn: readonly string[]
}

/** One thing that was looked at, and where it is put right. */
export interface PreflightCheck {
  id: string
  tone: 'right' | 'attention' | 'fails'
  words: string
  /** The page that puts it right, as it is named in the address. */
  page: 'canvases' | 'sound' | 'line' | 'destinations' | 'fit' | 'encoders' | 'rehearse'
}

type Draft = Omit<PreflightCheck, 'id' | 'page'>
const right = (words: string): Draft => ({ tone: 'right', words })

function accountChecked(
  name: string,
  { accountId, accountName }: { accountId: string; accountName: string },
  accounts: PreflightFacts['accounts'],
): Draft[] {
  if (!accounts) return []
  const state = accounts[accountId]
  if (!state)
    return [
      { tone: 'attention', words: `${accountName}, for ${name}: its service could not be asked.` },
    ]
  if (!state.isLinked)
    return [
      {
        tone: 'fails',
        words: `${name} is linked to ${accountName}, which has run out or is not linked here any more.`,
      },
    ]
  return [
    ...(state.mayGoLive === false
      ? [
          {
            tone: 'fails' as const,
            words: `${accountName} may not go live, says its service: ask for access there, which can take days.`,
          },
        ]
      : []),
    ...(state.alsoOn.length > 0
      ? [
          {
            tone: 'attention' as const,
            words: `${accountName} is logged in on ${listInWords(state.alsoOn)} too, which may end the send to ${name}: log out there.`,
          },
        ]
      : []),
  ]
}

function destinationsChecked(show: Show, { keys, accounts, now }: PreflightFacts): Draft[] {
  const found: Draft[] = destinationChecks(show, keys, now).map(({ tone, words }) => ({
    tone,
    words,
  }))
  for (const { name, on, connection, account } of show.destinations)
    if (on && connection === 'linked account' && account)
      found.push(...accountChecked(name, account, accounts))
  const count = show.destinations.filter(({ on }) => on).length
  if (count === 0) return [{ tone: 'fails', words: 'No destination is on.' }]
  return found.length > 0
    ? found
    : [right(`Keys, words and chats of ${countInWords(count, 'destination')} are right.`)]
}

/** Whether the line, as it was measured last, carries the plan. */
function lineChecked(show: Show, isFresh: boolean, words: string): Draft[] {
  const sample = newestSample(show)
  if (!sample) return [{ tone: 'fails', words: 'The line was never measured by its medium.' }]
  const { sentKbps } = sentOf(show)
  const now = isFresh ? 'now' : 'when it was last measured'
  const found: Draft[] = []
  if (sentKbps > sample.uploadKbps)
    found.push({
      tone: 'fails',
      words: `The line carried ${mbpsInWords(sample.uploadKbps)} ${now}; the plan sends ${mbpsInWords(sentKbps)}.`,
    })
  else if (sentKbps > sample.uploadKbps * (1 - lineOf(show).headroomPercent / 100))
    found.push({
      tone: 'attention',
      words: `The line carried ${mbpsInWords(sample.uploadKbps)} ${now}: the plan, ${mbpsInWords(sentKbps)}, eats into the headroom.`,
    })
  if (!isFresh)
    found.push({
      tone: 'attention',
      words: `The line was not measured within the hour: ${words}.`,
    })
  return found.length > 0
    ? found
    : [right(`The line is measured, ${words}; the plan sends ${mbpsInWords(sentKbps)}.`)]
}

const sentOf = (show: Show): { sentKbps: number } => ({
  sentKbps: verdictOf(show).budget.totalKbps,
})

function canvasesChecked(show: Show, { missingFiles }: PreflightFacts): Draft[] {
  const used = show.scenes.filter(({ layers }) => layers.length > 0)
  if (used.length === 0) return [{ tone: 'fails', words: 'No source is placed on any scene.' }]
  const grave = new Set(['off the edge', 'hidden', 'covered', 'focus cut', 'shown nowhere'])
  const placed = new Set(used.flatMap(({ layers }) => layers.map(({ sourceId }) => sourceId)))
  const missing = show.sources
    .filter(({ id, appearance }) => {
      return placed.has(id) && 'fileId' in appearance && missingFiles?.has(appearance.fileId)
    })
    .map(({ name }): Draft => ({
      tone: 'fails',
      words: `The file of ${name} is not kept here: choose it again.`,
    }))
  const hidden = used.flatMap((scene) =>
    sceneChecks(show, scene)
      .filter(({ kind }) => grave.has(kind))
      .map(({ sourceName, words }): Draft => ({
        tone: 'attention',
        words: `${scene.name}: ${sourceName} ${words}.`,
      })),
  )
  const found = [...missing, ...hidden]
  return found.length > 0
    ? found
    : [right(`Nothing is hidden or covered in ${countInWords(used.length, 'scene')}.`)]
}

/** A sound that moved its level this long ago may be away by now. */
const heardWithinSeconds = 3600

function soundChecked(show: Show, { heardAt, now }: PreflightFacts): Draft[] {
  if (!show.sounds.some(({ mixes, muted }) => mixes.live && !muted))
    return [{ tone: 'fails', words: 'Nothing is heard in the live mix.' }]
  const unheard = show.sounds
    .filter(({ mixes, muted }) => mixes.live && !muted)
    .filter(({ id }) => {
      const ageSeconds = (now.getTime() - Date.parse(heardAt[id] ?? '')) / 1000
      return !(ageSeconds <= heardWithinSeconds)
    })
    .map(({ name }) => name)
  const found = soundChecks(show).flatMap(({ tone, words }): Draft[] =>
    tone === 'note' ? [] : [{ tone, words }],
  )
  if (unheard.length > 0)
    found.push({
      tone: 'attention',
      words: `Not heard here within the hour: ${listInWords(unheard)}. Show the levels, and let each move its own.`,
    })
  return found.length > 0
    ? found
    : [right('Every sound moved its level within the hour, and nothing is heard twice.')]
}

function planChecked(show: Show): Draft[] {
  const { state, sentence, advice } = verdictOf(show)
  if (state === 'fits') return [right(`${sentence}.`)]
  return [
    { tone: state === 'fails' ? 'fails' : 'attention', words: `${sentence}. ${advice}`.trim() },
  ]
}

/** Everything that can be known before the night, looked at once more, the worst first. */
export function preflight(
  show: Show,
  order: Pick<NightOrder, 'tasks'>,
  facts: PreflightFacts,
): PreflightCheck[] {
  const known = knownTasks(show, order, facts)
  const told = (id: string, what: string): Draft[] => {
    const fact = known.get(id)
    if (!fact) return []
    return [
      fact.isDone
        ? right(`${what}: ${fact.words}.`)
        : { tone: 'attention', words: `${what}: ${fact.words}.` },
    ]
  }
  const line = known.get('line')
  const areas: [PreflightCheck['page'], Draft[]][] = [
    ['destinations', destinationsChecked(show, facts)],
    ['line', lineChecked(show, line?.isDone ?? false, line?.words ?? 'not looked at')],
    ['fit', planChecked(show)],
    ['encoders', told('encoders', 'Encoders of this computer')],
    ['fit', told('disk', 'Disk')],
    ['rehearse', told('rehearsed', 'Rehearsal')],
    ['sound', soundChecked(show, facts)],
    ['canvases', canvasesChecked(show, facts)],
  ]
  const gravity = { fails: 0, attention: 1, right: 2 } as const
  return areas
    .flatMap(([page, drafts], area) =>
      drafts.map((draft, index) => ({ ...draft, page, id: `${area}-${index}` })),
    )
    .sort((a, b) => gravity[a.tone] - gravity[b.tone])
}
