import {
  copiedScene,
  freeName,
  newScene,
  reordered,
  type Scene,
  type SceneRole,
  scenesWithout,
  scenesWithRole,
  type Transition,
  withCopiedVertical,
  type WithoutDevice,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

const makeIdentifier = (): string => nanoid(12)

/** What can be done to the list of scenes, and to a scene as a whole. */
export function useScenes() {
  const store = useShowStore()
  const selection = useSelectionStore()

  function setScenes(label: string, change: (scenes: readonly Scene[]) => Scene[]): void {
    const next = change(store.show.scenes)
    store.edit(label, (draft) => {
      draft.scenes = next
    })
  }

  function changeScene(label: string, change: (scene: Scene) => Scene): void {
    const { id, name } = selection.scene
    setScenes(`${label} ${name}`, (scenes) =>
      scenes.map((scene) => (scene.id === id ? change(scene) : scene)),
    )
  }

  function add(): void {
    const names = store.show.scenes.map(({ name }) => name)
    const scene = newScene(makeIdentifier(), freeName('Scene', names))
    setScenes(`Add ${scene.name}`, (scenes) => [...scenes, scene])
    selection.chooseScene(scene.id)
  }

  function duplicate(): void {
    const copy = copiedScene(store.show, selection.scene, makeIdentifier)
    const index = selection.sceneIndex
    setScenes(`Duplicate ${selection.scene.name}`, (scenes) => scenes.toSpliced(index + 1, 0, copy))
    selection.chooseScene(copy.id)
  }

  function rename(name: string): void {
    changeScene('Rename', (scene) => ({ ...scene, name }))
  }

  function remove(): void {
    const { id, name } = selection.scene
    if (store.show.scenes.length === 1) return
    const next = scenesWithout(store.show, id, makeIdentifier)
    setScenes(`Remove ${name}`, () => next)
  }

  function move(from: number, to: number): void {
    const scene = store.show.scenes[from]
    if (scene && from !== to)
      setScenes(`Reorder ${scene.name}`, (scenes) => reordered(scenes, from, to))
  }

  function moveChosen(by: 1 | -1): void {
    const index = selection.sceneIndex
    if (store.show.scenes[index + by]) move(index, index + by)
  }

  function chooseNeighbour(by: 1 | -1): void {
    const next = store.show.scenes[selection.sceneIndex + by]
    if (next) selection.chooseScene(next.id)
  }

  function setRole(role: SceneRole | null): void {
    const { id, name } = selection.scene
    setScenes(role ? `Mark ${name} as ${role}` : `Take the mark off ${name}`, (scenes) =>
      scenesWithRole(scenes, id, role),
    )
  }

  /** Uses the vertical of another scene; this scene's own stays in it, unseen. */
  function shareVertical(sceneId: string): void {
    const other = store.show.scenes.find(({ id }) => id === sceneId)
    if (other)
      changeScene(`Use the vertical of ${other.name} in`, (scene) => ({
        ...scene,
        verticalOf: sceneId,
      }))
  }

  /** Ends the sharing: with the scene's own vertical as it was before, or with a copy of the shared one. */
  function endSharing(how: 'own again' | 'keep a copy'): void {
    changeScene('Give a vertical of its own to', (scene) =>
      how === 'own again'
        ? { ...scene, verticalOf: null }
        : withCopiedVertical(store.show, scene, makeIdentifier),
    )
  }

  function setTransition(changes: Partial<Transition>): void {
    store.edit('Set the transition', (draft) => {
      Object.assign(draft.transition, changes)
    })
  }

  /** How the chosen scene comes on air; null for as all scenes do. */
  function setComesBy(comesBy: Transition | null): void {
    changeScene('Set how to come to', ({ comesBy: _, ...scene }) =>
      comesBy ? { ...scene, comesBy } : scene,
    )
  }

  function setWithoutDevice(withoutDevice: WithoutDevice): void {
    changeScene('Set what stands for a device that is gone in', (scene) => ({
      ...scene,
      withoutDevice,
    }))
  }

  return {
    add,
    duplicate,
    rename,
    remove,
    move,
    moveChosen,
    chooseNeighbour,
    setRole,
    shareVertical,
    endSharing,
    setTransition,
    setComesBy,
    setWithoutDevice,
  }
}
