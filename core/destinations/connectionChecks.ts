import { addressProblem, type Destination, fedBy, relayOf, type Show } from '../show'
import { type KeyRecord, keyState } from './keyState'
import type { DestinationCheck } from './destinationCheck'
import { wordChecks } from './wordChecks'

type Problem = Pick<DestinationCheck, 'area' | 'tone'> & { words: string }
const fails = (words: string): Problem => ({ area: 'connects', tone: 'fails', words })
const attention = (words: string): Problem => ({ area: 'connects', tone: 'attention', words })

function addressProblems({
  serverAddress,
  backupAddress,
  protocol,
  rules,
}: Destination): Problem[] {
  const wrong = addressProblem(serverAddress, protocol)
  const problems: Problem[] = []
  if (serverAddress.trim() === '') problems.push(attention('has no server address yet'))
  if (wrong) problems.push(fails(`cannot be reached: ${wrong}`))
  if (backupAddress !== null) {
    const backupWrong = addressProblem(backupAddress, protocol)
    if (!rules.offersBackup) problems.push(attention('offers no backup ingest, yet one is sent to'))
    if (backupAddress.trim() === '') problems.push(attention('has no address for its backup yet'))
    else if (backupWrong) problems.push(fails(`cannot be reached by its backup: ${backupWrong}`))
    else if (backupAddress === serverAddress)
      problems.push(attention('has the same address for its backup'))
  }
  return problems
}

function relayProblems(destination: Destination, all: readonly Destination[]): Problem[] {
  if (destination.relayId !== null) {
    const relay = relayOf(all, destination)
    if (!relay) return [fails('gets nothing: its relay is off')]
    return relay.canvas === destination.canvas
      ? []
      : [fails(`gets the ${relay.canvas} canvas from its relay, not the ${destination.canvas} one`)]
  }
  if (destination.connection !== 'relay') return []
  const fed = fedBy(all, destination).length
  const { mostFed } = destination.rules
  if (fed > mostFed) return [fails(`feeds at most ${mostFed}, and ${fed} are on it`)]
  return fed === 0 ? [attention('feeds nothing yet')] : []
}

function handOffProblems({ connection, handOff }: Destination): Problem[] {
  if (connection !== 'hand-off') return []
  if (handOff.mirrorsPicture === handOff.isMirroredBack) return []
  return [
    attention(
      handOff.mirrorsPicture
        ? 'is handed a picture that its program mirrors: writing would be back to front. Mirror it back'
        : 'is handed a mirrored picture that its program does not turn back',
    ),
  ]
}

function ladderProblems({ renditions, streamName, protocol }: Destination): Problem[] {
  const usesName = protocol === 'rtmp' || protocol === 'rtmps' || protocol === 'srt'
  return renditions.length > 1 && usesName && streamName === ''
    ? [attention('takes a ladder and has no stream name to append 2 and 3 to')]
    : []
}

function keyProblems(
  destination: Destination,
  keys: readonly KeyRecord[],
  show: Show,
  now: Date,
): Problem[] {
  const record = keys.find(({ destinationId }) => destinationId === destination.id)
  const { state, words } = keyState(destination, record, show, now)
  if (state === 'none needed') return []
  if (state === 'missing') return [attention('has no key yet')]
  if (state !== 'present') return [fails(`has a key that cannot be used: ${words}`)]
  const twin = show.destinations.find(({ id, on }) => on && record?.sameAs.includes(id))
  return twin ? [fails(`has the same key as ${twin.name}: each needs its own`)] : []
}

function chatProblems({ rules, chatReadBy }: Destination): Problem[] {
  if (rules.chat === 'no chat' || chatReadBy.trim() !== '') return []
  const where = rules.chat === 'only on its page' ? ', which can be read only on its page' : ''
  return [{ area: 'night', tone: 'attention', words: `has a chat that nobody reads${where}` }]
}

function problemsOf(
  destination: Destination,
  keys: readonly KeyRecord[] | null,
  show: Show,
  now: Date,
): Problem[] {
  const isSent = destination.relayId === null
  const byAddress =
    destination.connection === 'address and key' || destination.connection === 'relay'
  return [
    ...(isSent && byAddress ? addressProblems(destination) : []),
    ...(isSent && byAddress && keys ? keyProblems(destination, keys, show, now) : []),
    ...(destination.connection === 'linked account' && destination.account === null
      ? [attention('is not linked to an account yet')]
      : []),
    ...relayProblems(destination, show.destinations),
    ...handOffProblems(destination),
    ...ladderProblems(destination),
    ...chatProblems(destination),
  ]
}

/**
 * Everything that is not ready about the destinations that are on, the worst first. Keys are known
 * by what the server says of them; without that nothing is said of keys.
 */
export function destinationChecks(
  show: Show,
  keys: readonly KeyRecord[] | null,
  now: Date,
): DestinationCheck[] {
  return show.destinations
    .filter(({ on }) => on)
    .flatMap((destination) => [
      ...problemsOf(destination, keys, show, now).map(({ words, ...problem }) => ({
        destinationId: destination.id,
        ...problem,
        words: `${destination.name} ${words}.`,
      })),
      ...wordChecks(show, destination),
    ])
    .sort((a, b) => Number(a.tone === 'attention') - Number(b.tone === 'attention'))
}
