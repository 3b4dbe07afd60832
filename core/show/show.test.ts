import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import {
  lineOf,
  combineEdits,
  newShow,
  newLayer,
  newSource,
  type OwnPicture,
  reordered,
  type Show,
  showSchema,
  sourceKinds,
  unusedSources,
  withoutOrphans,
} from '.'

let last = 0
const makeIdentifier = () => `new-${(last += 1)}`
const edited = (change: (show: Show) => void): Show => {
  const copy = structuredClone(demoShow)
  change(copy)
  return copy
}
const mine = () => 'mine' as const
const theirs = () => 'theirs' as const

describe('the document', () => {
  it('accepts the demo and a new show', () => {
    expect(showSchema.parse(demoShow)).toEqual(demoShow)
    const fresh = newShow(makeIdentifier, { startsAt: '2026-12-01T20:00', timeZone: 'UTC' })
    expect(showSchema.parse(fresh)).toEqual(fresh)
  })

  it.each<[string, (show: Show) => void, string]>([
    [
      'an unknown source',
      (show) => (show.scenes[0]!.layers[0]!.sourceId = 'gone'),
      'scenes,0,layers,0,sourceId',
    ],
    ['an identifier twice', (show) => (show.sources[1]!.id = show.sources[0]!.id), 'sources,1,id'],
    [
      'a focus beyond its source',
      (show) => (show.sources[0]!.focus = { x: 1900, y: 0, width: 100, height: 100 }),
      'sources,0,focus',
    ],
    [
      'a vertical of a scene that is none',
      (show) => (show.scenes[0]!.verticalOf = 'gone'),
      'scenes,0,verticalOf',
    ],
    [
      'a vertical of a scene that uses another',
      (show) => {
        show.scenes[0]!.verticalOf = show.scenes[1]!.id
        show.scenes[1]!.verticalOf = show.scenes[2]!.id
      },
      'scenes,0,verticalOf',
    ],
    ['two scenes for the start', (show) => (show.scenes[0]!.role = 'starting'), 'scenes'],
    [
      'a cover zone beyond the picture',
      (show) => (show.destinations[1]!.coverZones[0]!.x = 0.9),
      'destinations,1,coverZones,0',
    ],
    ['a day that is none', (show) => (show.startsAt = '2026-02-30T20:00'), 'startsAt'],
    ['a time zone that is none', (show) => (show.timeZone = 'Nowhere/Land'), 'timeZone'],
    [
      'an odd side',
      (show) => (show.canvasPair.landscape.width = 1921),
      'canvasPair,landscape,width',
    ],
    [
      'a trim of everything',
      (show) => (show.scenes[0]!.layers[1]!.vertical.trim.left = 1920),
      'scenes,0,layers,1,vertical,trim',
    ],
    [
      'a size that is no number',
      (show) => (show.scenes[0]!.layers[0]!.landscape.x = Number.NaN),
      'scenes,0,layers,0,landscape,x',
    ],
  ])('refuses %s and says where', (_name, change, path) => {
    const result = showSchema.safeParse(edited(change))
    expect(result.error?.issues.map((issue) => issue.path.join())).toContain(path)
  })
})

describe('sources in scenes', () => {
  it('adds one in the middle of both canvases, under a name of its own', () => {
    const source = newSource(demoShow, 'camera', makeIdentifier)
    const layer = newLayer(demoShow, source, makeIdentifier)
    expect(source.name).toBe('Camera')
    expect(layer.landscape).toMatchObject({ x: 0, y: 0, width: 1920, height: 1080, shown: true })
    expect(layer.vertical).toMatchObject({ x: 0, width: 1080, height: 608, shown: true })
    const again = newSource({ sources: [source] }, 'camera', makeIdentifier)
    expect(again.name).toBe('Camera 2')
  })

  it('adds one to a single canvas where that is wanted', () => {
    const layer = newLayer(demoShow, demoShow.sources[0]!, makeIdentifier, ['vertical'])
    expect([layer.landscape.shown, layer.vertical.shown]).toEqual([false, true])
  })

  it('makes every kind so that the document takes it', () => {
    for (const kind of sourceKinds) {
      const source = newSource(demoShow, kind, makeIdentifier)
      const show = edited((copy) => copy.sources.push(source))
      expect(showSchema.safeParse(show).success).toBe(true)
    }
  })

  it('reorders within the list', () => {
    expect(reordered(['a', 'b', 'c'], 0, 2)).toEqual(['b', 'c', 'a'])
    expect(reordered(['a', 'b', 'c'], 1, -5)).toEqual(['b', 'a', 'c'])
    expect(reordered(['a', 'b', 'c'], 7, 0)).toEqual(['a', 'b', 'c'])
  })

  it('knows which sources no scene uses', () => {
    expect(unusedSources(demoShow)).toEqual([])
    const without = edited((show) => (show.scenes[1]!.layers = []))
    expect(unusedSources(without).map(({ id }) => id)).toEqual(['alerts'])
  })
})

describe('bringing two edits together', () => {
  const layer = (show: Show) => show.scenes[0]!.layers[1]!

  it('takes what only one side changed, without asking', () => {
    const ours = edited((show) => (layer(show).landscape.x = 100))
    const others = edited((show) => (lineOf(show).headroomPercent = 20))
    const { combined, differences } = combineEdits(demoShow, ours, others, () => {
      throw new Error('nobody has to choose')
    })
    expect(layer(combined).landscape.x).toBe(100)
    expect(lineOf(combined).headroomPercent).toBe(20)
    expect(differences.map(({ place, changedBy }) => [place, changedBy])).toEqual([
      ['scenes "Petals wide" layers "Bench camera" landscape x', 'mine'],
      ['lines "Glasshouse copper line" headroom percent', 'theirs'],
    ])
  })

  it('leaves out what may be absent and one side took away', () => {
    const index = demoShow.scenes.findIndex(({ comesBy }) => comesBy !== undefined)
    const ours = edited((show) => delete show.scenes[index]!.comesBy)
    const others = edited((show) => (show.scenes[index]!.name = 'Theirs'))
    const { combined } = combineEdits(demoShow, ours, others, mine)
    expect(combined.scenes[index]!.name).toBe('Theirs')
    expect('comesBy' in combined.scenes[index]!).toBe(false)
  })

  it('asks where both changed the same place', () => {
    const ours = edited((show) => (show.title = 'Ours'))
    const others = edited((show) => (show.title = 'Theirs'))
    expect(combineEdits(demoShow, ours, others, mine).combined.title).toBe('Ours')
    expect(combineEdits(demoShow, ours, others, theirs).combined.title).toBe('Theirs')
    expect(combineEdits(demoShow, ours, others, mine).differences).toEqual([
      { place: 'title', mine: 'Ours', theirs: 'Theirs', changedBy: 'both' },
    ])
  })

  it('takes what was measured in one go from one side, never half of it', () => {
    const picture = (nearestKind: 'talking' | 'action', cleanBitrateKbps: number): OwnPicture => ({
      ...{ name: 'Clip', measuredAt: '2026-11-26T12:00:00.000Z', program: '', processor: '' },
      clip: { width: 1280, height: 720, framesPerSecond: 30, seconds: 3 },
      ...{ spatialInformation: 1, temporalInformation: 1, nearestKind, cleanBitrateKbps },
      ...{ effort: 'brisk', points: [] },
    })
    const measured = (own: OwnPicture) =>
      edited((show) => Object.assign(show, { ownPicture: own, pictureKind: 'own' }))
    const [before, ours, others] = [
      picture('talking', 5000),
      picture('talking', 6000),
      picture('action', 5000),
    ].map(measured) as [Show, Show, Show]
    for (const [side, wanted] of [
      [mine, ours],
      [theirs, others],
    ] as const) {
      const { combined, differences } = combineEdits(before, ours, others, side)
      expect(combined.ownPicture).toEqual(wanted.ownPicture)
      expect(differences.map(({ place, changedBy }) => [place, changedBy])).toEqual([
        ['own picture', 'both'],
      ])
    }
  })

  it('keeps parts that either side added, and removes what either removed', () => {
    const ours = edited((show) =>
      lineOf(show).samples.push({ ...lineOf(show).samples[0]!, id: 'ours' }),
    )
    const others = edited((show) => {
      lineOf(show).samples.shift()
      lineOf(show).samples.push({ ...lineOf(show).samples[0]!, id: 'theirs' })
    })
    const ids = lineOf(combineEdits(demoShow, ours, others, mine).combined).samples.map(
      ({ id }) => id,
    )
    expect(ids).toContain('ours')
    expect(ids).toContain('theirs')
    expect(ids).not.toContain('sample-1')
  })

  it('asks where one side removed what the other changed', () => {
    const ours = edited((show) => (show.destinations[0]!.name = 'Renamed'))
    const others = edited((show) => show.destinations.shift())
    const kept = combineEdits(demoShow, ours, others, mine)
    expect(kept.combined.destinations.some(({ name }) => name === 'Renamed')).toBe(true)
    expect(kept.differences[0]?.changedBy).toBe('both')
    const gone = combineEdits(demoShow, ours, others, theirs)
    expect(gone.combined.destinations).toHaveLength(demoShow.destinations.length - 1)
  })

  it('treats an order as an edit of its own', () => {
    const ours = edited((show) => show.scenes.reverse())
    const others = edited((show) => (show.scenes[0]!.name = 'First'))
    const { combined } = combineEdits(demoShow, ours, others, mine)
    expect(combined.scenes.map(({ name }) => name)).toEqual([
      'Starting soon',
      'Growth chart',
      'Bench talk',
      'First',
    ])
  })

  it('leaves a valid show even where one side removed a source that the other placed', () => {
    const ours = edited((show) => {
      show.scenes.forEach((scene) => {
        scene.layers = scene.layers.filter(({ sourceId }) => sourceId !== 'caption')
      })
      show.sources = show.sources.filter(({ id }) => id !== 'caption')
    })
    const others = edited((show) =>
      show.scenes[0]!.layers.push({ ...show.scenes[1]!.layers[1]!, id: 'fresh' }),
    )
    const { combined } = combineEdits(demoShow, ours, others, mine)
    expect(showSchema.safeParse(combined).success).toBe(false)
    expect(showSchema.safeParse(withoutOrphans(combined)).success).toBe(true)
  })

  it('lets go of lines, sounds and relays that one side removed while the other came to need them', () => {
    const ours = edited((show) => {
      show.lineId = 'phone'
      show.destinations[0]!.relayId = 'relayhouse'
      show.sounds.find(({ id }) => id === 'lapel')!.alsoHeardIn = ['computer']
    })
    const others = edited((show) => {
      show.lines = show.lines.filter(({ id }) => id !== 'phone')
      show.destinations = show.destinations.filter(({ id }) => id !== 'relayhouse')
      show.sounds = show.sounds.filter(({ id }) => id !== 'computer')
    })
    const { combined } = combineEdits(demoShow, ours, others, theirs)
    expect(showSchema.safeParse(combined).success).toBe(false)
    const mended = withoutOrphans(combined)
    expect(showSchema.safeParse(mended).success).toBe(true)
    expect(mended.lineId).toBe('glasshouse')
    expect(mended.destinations[0]?.relayId).toBeNull()
  })
})
