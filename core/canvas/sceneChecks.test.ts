import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import type { Show } from '../show'
import { sceneChecks } from './sceneChecks'

describe('the checks of a scene', () => {
  const kinds = (show: Show, index = 0) =>
    sceneChecks(show, show.scenes[index]!).map(
      ({ kind, sourceName, canvas: on }) => `${sourceName}: ${kind}${on ? ` on ${on}` : ''}`,
    )
  const edited = (change: (show: Show) => void): Show => {
    const copy = structuredClone(demoShow)
    change(copy)
    return copy
  }

  it('finds the covered goal, its small words and slow cameras in the demo', () => {
    expect(kinds(demoShow)).toEqual(
      expect.arrayContaining([
        'Seed fund goal: covered on vertical',
        'Seed fund goal: words too small on vertical',
        'Bench camera: slower than the show',
      ]),
    )
    expect(kinds(demoShow).some((words) => words.startsWith('Glasshouse'))).toBe(false)
  })

  it.each<[string, (show: Show) => void, string]>([
    [
      'blown up',
      (show) => (show.scenes[0]!.layers[1]!.landscape.width = 4000),
      'Bench camera: blown up on landscape',
    ],
    [
      'off the edge',
      (show) => (show.scenes[0]!.layers[1]!.landscape.x = 1920),
      'Bench camera: off the edge on landscape',
    ],
    [
      'shown nowhere',
      (show) => (show.scenes[0]!.layers[2]!.landscape.shown = false),
      'Growth chart: shown nowhere',
    ],
    [
      'focus cut',
      (show) => (show.scenes[0]!.layers[1]!.vertical.trim.left = 600),
      'Bench camera: focus cut on vertical',
    ],
  ])('finds what is %s', (_name, change, wanted) => {
    expect(kinds(demoShow)).not.toContain(wanted)
    expect(kinds(edited(change))).toContain(wanted)
  })

  it('leaves destinations alone that are switched off', () => {
    const off = edited((show) =>
      show.destinations.forEach((destination) => (destination.on = false)),
    )
    expect(kinds(off).some((words) => words.includes('covered'))).toBe(false)
  })
})
