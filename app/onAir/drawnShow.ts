import { onAirFramesPerSecond } from '@green-mantle/core/on-air'
import { layersOnAir, onBoth, type Show, standbySceneOf } from '@green-mantle/core/show'
import type { DrawnShow } from './wireTypes'

/** What of a show the worker draws, as plain data. */
export const drawnShow = (show: Show): DrawnShow =>
  JSON.parse(
    JSON.stringify({
      canvasPair: show.canvasPair,
      dressing: show.dressing,
      sources: show.sources,
      scenes: show.scenes.map((scene) => ({
        id: scene.id,
        withoutDevice: scene.withoutDevice ?? 'card',
        layers: onBoth((canvas) => layersOnAir(show, scene, canvas)),
      })),
      standbySceneId: standbySceneOf(show)?.id ?? null,
      framesPerSecond: onBoth((canvas) => onAirFramesPerSecond(show, canvas)),
    } satisfies DrawnShow),
  ) as DrawnShow
