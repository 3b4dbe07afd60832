import type { Show } from './show'
import type { Sound } from './sound'

/** Takes sounds out of a show, and out of what other sounds are also heard in. Alters the show it is given. */
export function removeSounds(show: Pick<Show, 'sounds'>, isGone: (sound: Sound) => boolean): void {
  const gone = new Set(show.sounds.filter(isGone).map(({ id }) => id))
  show.sounds = show.sounds.filter(({ id }) => !gone.has(id))
  for (const sound of show.sounds)
    sound.alsoHeardIn = sound.alsoHeardIn.filter((id) => !gone.has(id))
}
