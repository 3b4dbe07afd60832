import type { MakeIdentifier } from './identifier'
import type { Scene, SceneRole } from './scene'
import { usersOfVertical, withCopiedVertical } from './sharedVertical'
import type { Show } from './show'
import { freeName } from './sourcesInScenes'

/** A copy of a scene with layers of its own; it serves no role, since only one scene can. */
export function copiedScene(
  show: Pick<Show, 'scenes'>,
  scene: Scene,
  makeIdentifier: MakeIdentifier,
): Scene {
  const names = show.scenes.map(({ name }) => name)
  return {
    ...scene,
    id: makeIdentifier(),
    name: freeName(`${scene.name} copy`.slice(0, 190), names),
    role: null,
    layers: scene.layers.map((layer) => ({ ...layer, id: makeIdentifier() })),
  }
}

/** The scenes without one; those that used its vertical keep a copy, so that what viewers see stays. */
export function scenesWithout(
  show: Pick<Show, 'scenes' | 'sources' | 'canvasPair'>,
  sceneId: string,
  makeIdentifier: MakeIdentifier,
): Scene[] {
  const users = new Set(usersOfVertical(show, sceneId))
  return show.scenes
    .map((scene) => (users.has(scene) ? withCopiedVertical(show, scene, makeIdentifier) : scene))
    .filter(({ id }) => id !== sceneId)
}

/** The scenes with one marked as starting, break or end (or as none of them); whichever had the mark loses it. */
export function scenesWithRole(
  scenes: readonly Scene[],
  sceneId: string,
  role: SceneRole | null,
): Scene[] {
  return scenes.map((scene) => {
    if (scene.id === sceneId) return { ...scene, role }
    return scene.role !== null && scene.role === role ? { ...scene, role: null } : scene
  })
}

/** Moves an item of a list to another place; the place is held within the list. */
export function reordered<Item>(items: readonly Item[], from: number, to: number): Item[] {
  const result = [...items]
  const [moved] = result.splice(from, 1)
  if (moved !== undefined) result.splice(Math.max(0, Math.min(to, result.length)), 0, moved)
  return result
}
