import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import {
  copiedScene,
  type SceneRole,
  standbySceneOf,
  transitionTo,
  layersOnAir,
  scenesWithout,
  scenesWithRole,
  type Show,
  showSchema,
  usersOfVertical,
  verticalsToShare,
  verticalSceneOf,
  withCopiedVertical,
  withoutOrphans,
} from '.'

let last = 0
const makeIdentifier = () => `made-${(last += 1)}`

/** Petals wide uses the vertical of Bench talk. */
function sharing(): Show {
  const show = structuredClone(demoShow)
  show.scenes[0]!.verticalOf = 'bench-talk'
  return show
}
const shownOnVertical = (layers: Show['scenes'][number]['layers']) =>
  layers
    .filter(({ vertical }) => vertical.shown)
    .map(({ sourceId, vertical }) => [sourceId, vertical])

describe('what is on air', () => {
  const [petals] = demoShow.scenes
  it('comes as the show says, or as the scene does', () => {
    expect(transitionTo(demoShow, petals)).toEqual(demoShow.transition)
    expect(transitionTo(demoShow, undefined)).toEqual(demoShow.transition)
    const comesBy = { kind: 'cut', milliseconds: 0 } as const
    expect(transitionTo(demoShow, { comesBy })).toEqual(comesBy)
  })

  it('is the scene for standing by while nobody draws, else that for starting, else the first', () => {
    const roles = (...all: (SceneRole | null)[]) => ({
      scenes: all.map((role, index) => ({ ...petals!, id: `${index}`, role })),
    })
    expect(standbySceneOf(roles(null, 'starting', 'standby'))?.id).toBe('2')
    expect(standbySceneOf(roles(null, 'starting', 'end'))?.id).toBe('1')
    expect(standbySceneOf(roles(null, 'break'))?.id).toBe('0')
    expect(standbySceneOf(roles())).toBeUndefined()
  })
})

describe('a shared vertical', () => {
  it('puts the other scene on the vertical canvas and keeps its own', () => {
    const show = sharing()
    const [petals, bench] = show.scenes
    expect(showSchema.safeParse(show).success).toBe(true)
    expect(verticalSceneOf(show, petals!)).toBe(bench)
    expect(layersOnAir(show, petals!, 'vertical')).toBe(bench!.layers)
    expect(layersOnAir(show, petals!, 'landscape')).toBe(petals!.layers)
    expect(petals!.layers).toEqual(demoShow.scenes[0]!.layers)
  })

  it('is offered only where no chain can come of it', () => {
    const show = sharing()
    const names = (index: number) => verticalsToShare(show, show.scenes[index]!).map(({ id }) => id)
    expect(names(0)).toEqual(['bench-talk', 'growth-chart-scene', 'starting-soon'])
    expect(names(1)).toEqual([])
    expect(names(2)).toEqual(['bench-talk', 'starting-soon'])
    expect(usersOfVertical(show, 'bench-talk').map(({ id }) => id)).toEqual(['petals-wide'])
  })

  it('can be kept as a copy that looks the same and leaves landscape alone', () => {
    const show = sharing()
    const [petals, bench] = show.scenes
    const copy = withCopiedVertical(show, petals!, makeIdentifier)
    expect(copy.verticalOf).toBeNull()
    expect(shownOnVertical(copy.layers)).toHaveLength(shownOnVertical(bench!.layers).length)
    expect(shownOnVertical(copy.layers)).toEqual(
      expect.arrayContaining(shownOnVertical(bench!.layers)),
    )
    const landscape = (layers: typeof copy.layers) =>
      layers.filter(({ landscape }) => landscape.shown).map((layer) => [layer.id, layer.landscape])
    expect(landscape(copy.layers)).toEqual(landscape(petals!.layers))
  })

  it('becomes a copy when the scene it belongs to goes', () => {
    const show = sharing()
    const scenes = scenesWithout(show, 'bench-talk', makeIdentifier)
    expect(scenes.map(({ id }) => id)).toEqual([
      'petals-wide',
      'growth-chart-scene',
      'starting-soon',
    ])
    expect(showSchema.safeParse({ ...show, scenes }).success).toBe(true)
    expect(shownOnVertical(scenes[0]!.layers)).toHaveLength(5)
  })

  it('ends where a merge took the other scene away', () => {
    const show = sharing()
    show.scenes = show.scenes.filter(({ id }) => id !== 'bench-talk')
    expect(showSchema.safeParse(show).success).toBe(false)
    expect(showSchema.safeParse(withoutOrphans(show)).success).toBe(true)
  })
})

describe('the list of scenes', () => {
  it('copies one with layers of its own, without its role', () => {
    const soon = demoShow.scenes[3]!
    const copy = copiedScene(demoShow, soon, makeIdentifier)
    expect(copy).toMatchObject({ name: 'Starting soon copy', role: null })
    expect(copy.layers.map(({ landscape }) => landscape)).toEqual(
      soon.layers.map(({ landscape }) => landscape),
    )
    expect(copy.layers.some(({ id }) => soon.layers.some((layer) => layer.id === id))).toBe(false)
  })

  it('gives a role to one scene only', () => {
    const scenes = scenesWithRole(demoShow.scenes, 'bench-talk', 'starting')
    expect(scenes.map(({ role }) => role)).toEqual([null, 'starting', null, null])
    expect(scenesWithRole(scenes, 'petals-wide', 'end').map(({ role }) => role)).toEqual([
      'end',
      'starting',
      null,
      null,
    ])
  })
})
