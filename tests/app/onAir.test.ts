import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { drawnShow } from '~/onAir/drawnShow'
import { paintCanvas } from '~/onAir/paintPlacement'

describe('what of a show is drawn', () => {
  it('is every scene as it is on air, and the one that stands by', () => {
    const drawn = drawnShow(demoShow)
    expect(drawn.scenes.map(({ id }) => id)).toEqual(demoShow.scenes.map(({ id }) => id))
    expect(drawn.standbySceneId).toBe(demoShow.scenes.find(({ role }) => role === 'starting')!.id)
    const borrowed = structuredClone(demoShow)
    borrowed.scenes[0]!.verticalOf = borrowed.scenes[1]!.id
    expect(drawnShow(borrowed).scenes[0]!.layers.vertical).toEqual(demoShow.scenes[1]!.layers)
    const noRole = { ...demoShow, scenes: demoShow.scenes.map((each) => ({ ...each, role: null })) }
    expect(drawnShow(noRole).standbySceneId).toBe(demoShow.scenes[0]!.id)
    const bare = { ...demoShow, scenes: demoShow.scenes.map((each) => ({ ...each })) }
    for (const scene of bare.scenes) delete scene.withoutDevice
    bare.scenes[1]!.withoutDevice = 'hidden'
    expect(drawnShow(bare).scenes.map(({ withoutDevice }) => withoutDevice)).toEqual(
      bare.scenes.map((_, index) => (index === 1 ? 'hidden' : 'card')),
    )
  })

  it('is painted back to front, and what is not shown is not', () => {
    const [scene] = demoShow.scenes
    const painted: string[] = []
    const context = new Proxy(
      { measureText: () => ({ width: 1 }) },
      {
        get: (target, name) =>
          name in target ? target[name as keyof typeof target] : () => undefined,
        set: () => true,
      },
    ) as unknown as CanvasRenderingContext2D
    const families = {
      Literata: '',
      'Atkinson Hyperlegible Next': '',
      'Atkinson Hyperlegible Mono': '',
    }
    paintCanvas(context, {
      ...{ name: 'landscape', size: demoShow.canvasPair.landscape, layers: scene!.layers },
      sources: new Map(demoShow.sources.map((source) => [source.id, source])),
      ...{ dressing: demoShow.dressing, families, measure: (text) => text.length / 2 },
      pictureOf(source) {
        painted.push(source.id)
        return undefined
      },
    })
    const pictures = scene!.layers
      .filter(({ landscape }) => landscape.shown)
      .map(({ sourceId }) => demoShow.sources.find(({ id }) => id === sourceId)!)
      .filter(({ appearance }) => appearance.type === 'drawing')
      .map(({ id }) => id)
    expect(painted).toEqual(pictures.toReversed())
    expect(painted.length).toBeGreaterThan(1)
  })
})
