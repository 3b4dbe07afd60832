import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { lineOf } from '../show'
import { shareOfScale, uploadBands, uploadScaleMbps } from './uploadBands'
import { usableUpload } from './usableUpload'

const upload = usableUpload(lineOf(demoShow))

describe('the bands of the measured upload', () => {
  it('lie on each other without rest, from nothing to what was measured', () => {
    const [headroom, traffic, usable] = uploadBands(upload, 20_000)
    expect(usable!.from).toBe(0)
    expect(traffic!.from).toBeCloseTo(usable!.height, 9)
    expect(headroom!.from).toBeCloseTo(traffic!.from + traffic!.height, 9)
    expect(headroom!.from + headroom!.height).toBeCloseTo(upload.measuredKbps / 20_000, 9)
  })

  it('have one for the peaks where the headroom does not hold them', () => {
    const narrow = usableUpload({ ...lineOf(demoShow), headroomPercent: 5 })
    const found = uploadBands(narrow, 20_000)
    expect(found.map(({ name }) => name)).toContain('room for peaks')
    const heights = found.reduce((sum, { height }) => sum + height, 0)
    expect(heights).toBeCloseTo(narrow.measuredKbps / 20_000, 9)
  })

  it('are named where there is room for it', () => {
    const named = uploadBands(upload, 20_000).filter(({ isNamed }) => isNamed)
    expect(named.map(({ name }) => name)).toEqual(['headroom', 'usable'])
    const thin = { ...upload, headroomKbps: upload.measuredKbps / 20 }
    expect(uploadBands(thin, 20_000)[0]!.isNamed).toBe(false)
  })

  it('are never outside the scale', () => {
    const taken = { ...upload, headroomKbps: upload.measuredKbps, usableKbps: 0 }
    for (const { from, height } of uploadBands(taken, 20_000)) {
      expect(from).toBeGreaterThanOrEqual(0)
      expect(from + height).toBeLessThanOrEqual(1)
    }
    expect([shareOfScale(-5, 10), shareOfScale(5, 10), shareOfScale(50, 10)]).toEqual([0, 0.5, 1])
  })
})

describe('the scale', () => {
  it('has room for the highest of what was measured and what is sent', () => {
    expect(uploadScaleMbps([19_000, 20_000], 12_000)).toBe(21)
    expect(uploadScaleMbps([10_000], 30_000)).toBe(32)
    expect(uploadScaleMbps([], 0)).toBe(2)
  })
})
