import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  coverZoneSchema,
  newCoverZone,
  showSchema,
  withPicture,
  withZoneSide,
  zoneBetween,
} from '.'

describe('another picture for a source', () => {
  it('keeps what is trimmed and the focus, in the new pixels', () => {
    const picture = {
      appearance: demoShow.sources[1]!.appearance,
      nativeWidth: 1920,
      nativeHeight: 1080,
      nativeFramesPerSecond: 60,
    }
    const show = withPicture(demoShow, 'petal-macro', picture)
    expect(showSchema.safeParse(show).success).toBe(true)
    const [before, after] = [demoShow, show].map((some) => some.scenes[0]!.layers[3]!.vertical)
    expect(after!.trim.left).toBe(before!.trim.left / 2)
    expect({ ...after!, trim: before!.trim }).toEqual(before)
    expect(show.sources[1]!.focus!.width).toBe(demoShow.sources[1]!.focus!.width / 2)
    expect(withPicture(demoShow, 'nobody', picture)).toBe(demoShow)
  })
})

describe('cover zones', () => {
  const share = fc.double({ min: -0.5, max: 1.5, noNaN: true })
  const side = fc.constantFrom('x' as const, 'y' as const, 'width' as const, 'height' as const)

  it('stay within the picture, whatever is typed or drawn', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(side, share), { maxLength: 8 }), (changes) => {
        const zone = changes.reduce(
          (now, [which, value]) => ({ ...now, ...withZoneSide(now, which, value) }),
          newCoverZone('z', 'feed'),
        )
        expect(coverZoneSchema.safeParse(zone).success).toBe(true)
      }),
    )
    fc.assert(
      fc.property(share, share, share, share, (a, b, c, d) => {
        const box = zoneBetween({ x: a, y: b }, { x: c, y: d })
        expect(coverZoneSchema.safeParse({ ...newCoverZone('z', 'feed'), ...box }).success).toBe(
          true,
        )
      }),
    )
  })

  it('give the side that was set and move the other end', () => {
    expect(withZoneSide(newCoverZone('z', 'feed'), 'width', 0.98)).toMatchObject({
      x: 0.02,
      width: 0.98,
    })
    expect(withZoneSide(newCoverZone('z', 'feed'), 'x', 0.9)).toMatchObject({ x: 0.9, width: 0.1 })
  })
})
