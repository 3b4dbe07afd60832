import type { MakeIdentifier } from './identifier'
import { newLayer } from './sourcesInScenes'
import type { Layer, Scene } from './scene'
import type { Show } from './show'

/** The scene whose vertical arrangement is on air while this one is: itself, or the one it shares with. */
export function verticalSceneOf(show: Pick<Show, 'scenes'>, scene: Scene): Scene {
  return show.scenes.find(({ id }) => id === scene.verticalOf) ?? scene
}

/** The layers that make a scene's canvas, front to back. */
export function layersOnAir(
  show: Pick<Show, 'scenes'>,
  scene: Scene,
  canvas: 'landscape' | 'vertical',
): Layer[] {
  return canvas === 'vertical' ? verticalSceneOf(show, scene).layers : scene.layers
}

/** The scenes that use the vertical arrangement of this one. */
export function usersOfVertical(show: Pick<Show, 'scenes'>, sceneId: string): Scene[] {
  return show.scenes.filter(({ verticalOf }) => verticalOf === sceneId)
}

/** The scenes whose vertical a scene may use: every other that has one of its own. */
export function verticalsToShare(show: Pick<Show, 'scenes'>, scene: Scene): Scene[] {
  // A scene that others use cannot itself use another's: nobody could follow such a chain.
  if (usersOfVertical(show, scene.id).length > 0) return []
  return show.scenes.filter(({ id, verticalOf }) => id !== scene.id && verticalOf === null)
}

/**
 * A scene with a vertical arrangement of its own again that looks like the one it used: its layers
 * take over the placements, and what it did not have is added behind its neighbour, shown on the
 * vertical canvas only. Its landscape stays as it is, so where the two front-to-back orders
 * disagree, its own counts.
 */
export function withCopiedVertical(
  show: Pick<Show, 'scenes' | 'sources' | 'canvasPair'>,
  scene: Scene,
  makeIdentifier: MakeIdentifier,
): Scene {
  const shared = verticalSceneOf(show, scene)
  if (shared === scene) return { ...scene, verticalOf: null }
  const waiting = [...scene.layers]
  const taken = shared.layers.map((theirs): Layer | undefined => {
    const index = waiting.findIndex(({ sourceId }) => sourceId === theirs.sourceId)
    const [ours] = index < 0 ? [] : waiting.splice(index, 1)
    if (ours) return { ...ours, vertical: theirs.vertical }
    const source = show.sources.find(({ id }) => id === theirs.sourceId)
    if (!source || !theirs.vertical.shown) return undefined
    return { ...newLayer(show, source, makeIdentifier, []), vertical: theirs.vertical }
  })
  const hidden = waiting.map((layer) => ({
    ...layer,
    vertical: { ...layer.vertical, shown: false },
  }))
  const copied = taken.filter((layer) => layer !== undefined)
  return { ...scene, verticalOf: null, layers: inOwnOrder(scene, [...copied, ...hidden]) }
}

/**
 * Sorts layers so that those of the scene keep their order on landscape; a layer that is new follows
 * the one that stood before it.
 */
function inOwnOrder(scene: Scene, layers: readonly Layer[]): Layer[] {
  const own = new Set(scene.layers.map(({ id }) => id))
  const result = scene.layers.flatMap(({ id }) => layers.find((layer) => layer.id === id) ?? [])
  layers.forEach((layer, index) => {
    if (own.has(layer.id)) return
    const before = layers[index - 1]
    result.splice(before ? result.findIndex(({ id }) => id === before.id) + 1 : 0, 0, layer)
  })
  return result
}
