import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { newPlanDetails, type OwnPicture } from '../show'
import { efficiencyOf, encodedPictureOf } from './efficiency'
import { codecEfficiency, effortEfficiency } from './pictureScoreTables'

const [device] = demoShow.computer.devices
const measuredOn = (efficiency: number, effort = 'brisk') =>
  encodedPictureOf({
    ...demoShow,
    computer: {
      devices: [
        {
          ...{ id: 'own', kind: 'processor' },
          throughputs: device!.throughputs.map((each) =>
            each.codec === 'h264' && each.effort === effort ? { ...each, efficiency } : each,
          ),
        },
      ],
    },
  })
const encoding = { codec: 'h264', effort: 'brisk' } as const
const on = (deviceId: string | null) => ({ encoder: { ...newPlanDetails().encoder, deviceId } })

describe('what an encode gets out of a bit', () => {
  it('is what its device was measured to, and the tables’ on any other and at any other effort', () => {
    const picture = measuredOn(0.9)
    const byTable = effortEfficiency.h264.brisk
    expect(efficiencyOf({ ...encoding, ...on('own') }, picture)).toBe(0.9)
    expect(efficiencyOf({ ...encoding, ...on('other') }, picture)).toBe(byTable)
    expect(efficiencyOf({ ...encoding, ...on(null) }, picture)).toBe(byTable)
    expect(efficiencyOf(encoding, picture)).toBe(byTable)
    expect(efficiencyOf({ ...encoding, ...on('own'), effort: 'fine' }, picture)).toBe(
      effortEfficiency.h264.fine,
    )
    expect(efficiencyOf({ codec: 'av1', effort: 'finest', ...on('own') }, picture)).toBe(
      codecEfficiency.av1,
    )
    expect(efficiencyOf({ ...encoding, efficiency: 0.7 }, picture)).toBe(0.7)
  })

  it('of a picture of one’s own stays as it was measured at the effort that it was measured by', () => {
    const own = { nearestKind: 'hands', effort: 'brisk' } as OwnPicture
    const picture = { ...measuredOn(0.95), picture: own }
    const byTable = effortEfficiency.h264.brisk
    expect(efficiencyOf({ ...encoding, ...on('own') }, picture)).toBeCloseTo(byTable, 12)
    // What else was measured stands to it as it was measured.
    expect(efficiencyOf({ codec: 'hevc', effort: 'fine', efficiency: 1.9 }, picture)).toBeCloseTo(
      (1.9 / 0.95) * byTable,
      12,
    )
    const fine = { ...measuredOn(1.2, 'fine'), picture: own }
    expect(efficiencyOf({ ...encoding, effort: 'fine', ...on('own') }, fine)).toBe(1.2)
  })
})
