import { encodedPictureOf, pictureScore } from '@green-mantle/core/media'
import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { fitRows, readApart } from '~/components/fit/rows'

const rowOf = (name: string) => fitRows(demoShow, []).find((row) => row.name === name)!

describe('a row of Fit', () => {
  it('says what the picture is worth on every screen of its viewers', () => {
    const { score: mean, word, scores, rendition, destination } = rowOf('Longmeadow')
    expect(destination?.viewers).toEqual(['desk', 'tv'])
    expect(scores.map(({ screen }) => screen)).toEqual(['desk', 'tv'])
    for (const { screen, score } of scores)
      expect(score).toBe(pictureScore(rendition, encodedPictureOf(demoShow), screen))
    // Of four times the pixels that a TV shows it is sent a quarter.
    expect(scores[1]!.score).toBeLessThan(scores[0].score - 10)
    expect(scores.map(({ word }) => word)).toEqual(['clean', 'soft'])
    // What is planned by, and shown first, is their mean.
    expect(mean).toBeCloseTo((scores[0].score + scores[1]!.score) / 2, 9)
    expect(word).toBe('good')
    expect(readApart(rowOf('Longmeadow'))).toEqual(scores)
  })

  it('says it once where there is one', () => {
    expect(rowOf('Commonhall').scores).toHaveLength(1)
    expect(readApart(rowOf('Commonhall'))).toEqual([])
  })

  it('judges a lower step of a ladder at its own size', () => {
    const ladder = {
      ...demoShow,
      destinations: demoShow.destinations.map((destination) =>
        destination.name === 'Longmeadow'
          ? {
              ...destination,
              rules: { ...destination.rules, mostRenditions: 2 },
              renditions: [
                ...destination.renditions,
                { ...destination.renditions[0]!, id: 'lower', width: 1280, height: 720 },
              ],
            }
          : destination,
      ),
    }
    const lower = fitRows(ladder, []).find(({ rendition }) => rendition.id === 'lower')
    expect(lower?.scores.map(({ screen }) => screen)).toEqual(['own size'])
  })
})
