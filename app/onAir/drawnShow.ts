import { onAirFramesPerSecond } from '@green-mantle/core/on-air'
import { layersOnAir, onBoth, type Show } from '@green-mantle/core/show'
import type { DrawnShow } from './wireTypes'

/** The scene that goes out while the window is away: the one that is for starting, else the first. */
const standbySceneOf = ({ scenes }: Pick<Show, 'scenes'>): string | null =>
  (scenes.find(({ role }) => role === 'starting') ?? scenes[0])?.id ?? null

/** What of a show the worker draws, as plain data. */
export const drawnShow = (show: Show): DrawnShow =>
  JSON.parse(
    JSON.stringify({
      canvasPair: show.canvasPair,
      dressing: show.dressing,
      sources: show.sources,
      scenes: show.scenes.map((scene) => ({
        id: scene.id,
        layers: onBoth((canvas) => layersOnAir(show, scene, canvas)),
      })),
      standbySceneId: standbySceneOf(show),
      framesPerSecond: onBoth((canvas) => onAirFramesPerSecond(show, canvas)),
    } satisfies DrawnShow),
  ) as DrawnShow
