import { breachesOf, timingAndSoundBreaches } from '../../fit'
import { showProblem } from '../problem/showProblem'
import {
  type PlannedShow,
  type RenditionRequest,
  renditionRequestsOf,
} from '../problem/renditionRequests'

/** Why no plan can have a destination or recording, whatever the line carries. */
export interface Obstacle {
  id: string
  words: string
}

function wordsFor({ destination, rendition, pins }: RenditionRequest, show: PlannedShow): string {
  if (!destination) return 'Nothing that the recording accepts can be encoded on this computer.'
  const { name, relayId, plan, connection } = destination
  if (plan.routePinned && relayId !== null) {
    const relay = show.destinations.find(({ id }) => id === relayId)
    return `${name} is pinned to ${relay?.name ?? 'a relay'}, which cannot pass on to it what it is sent.`
  }
  const asked = { ...destination, renditions: [rendition] }
  const [unmendable] = timingAndSoundBreaches(asked, show.canvasPair)
  if (unmendable) return unmendable.words
  const isHeld = connection === 'hand-off' || pins.size > 0
  const [held] = isHeld ? breachesOf(asked, show.canvasPair) : []
  return (
    held?.words ??
    `No size, frame rate, codec and bitrate that ${name} accepts lies within its levels and can be encoded on this computer.`
  )
}

/** Everything that no plan can have for want of more than room, with the reason, each once. */
export function obstaclesOf(show: PlannedShow): Obstacle[] {
  const { demands } = showProblem(show).problem
  const obstacles = new Map<string, Obstacle>()
  renditionRequestsOf(show).forEach((request, index) => {
    const { direct, relays, choices } = demands[index]!
    if (choices.length > 0 && (direct || relays.length > 0)) return
    const { id } = request.source
    if (!obstacles.has(id)) obstacles.set(id, { id, words: wordsFor(request, show) })
  })
  return [...obstacles.values()]
}
