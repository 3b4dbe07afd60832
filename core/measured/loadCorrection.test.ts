import { describe, expect, it } from 'vitest'
import { newDevice } from '../show'
import {
  loadCorrection,
  plannedShareBeside,
  withLoadCorrected,
  withPlannedShare,
} from './loadCorrection'

const process = { plannedShare: 0.3, processorShare: 0.45, pictureShare: 0, speed: 1 }

describe('what the encodes took against what was planned', () => {
  it('is how many times as much it was, over all processes', () => {
    expect(loadCorrection([process])).toBeCloseTo(1.5, 9)
    expect(loadCorrection([process, { ...process, processorShare: 0.75 }])).toBeCloseTo(2, 9)
  })

  it('counts what one that did not keep up would have taken to do it all', () => {
    expect(loadCorrection([{ ...process, speed: 0.5 }])).toBeCloseTo(3, 9)
    // Faster than real time is catching up, and no reason to think the encodes cheaper.
    expect(loadCorrection([{ ...process, speed: 1.2 }])).toBeCloseTo(1.5, 9)
  })

  it('leaves out what decoding and scaling take, of one that did half its work in time too', () => {
    expect(loadCorrection([{ ...process, pictureShare: 0.09 }])).toBeCloseTo(1.2, 9)
    // Half of everything in 0.45: all of it would have taken 0.9, 0.3 of which is not encoding.
    expect(loadCorrection([{ ...process, speed: 0.5, pictureShare: 0.3 }])).toBeCloseTo(2, 9)
  })

  it('is not known where something of it is not, and nothing where they agree within a tenth', () => {
    for (const unknown of [
      { plannedShare: null },
      { processorShare: null },
      { pictureShare: null },
      { speed: null },
    ])
      expect(loadCorrection([process, { ...process, ...unknown }])).toBeNull()
    expect(loadCorrection([{ ...process, processorShare: 0.32 }])).toBeNull()
    expect(loadCorrection([])).toBeNull()
  })
})

describe('what decoding and scaling leave', () => {
  const processor = { ...newDevice('p', 'Processor'), kind: 'processor' as const }
  const graphics = { ...processor, id: 'g', kind: 'graphics' as const }
  const computer = {
    ...{ name: '', freeDiskGigabytes: null, measured: null },
    devices: [processor, graphics],
  }
  const shares = (...own: (number | null)[]) => own.map((pictureShare) => ({ pictureShare }))

  it('is the usual share without them, of both canvases together', () => {
    expect(plannedShareBeside(shares(0.22, 0.1), computer)).toEqual({
      pictureShare: 0.32,
      percent: 48,
    })
    // However much they take, somebody may want to encode beside them.
    expect(plannedShareBeside(shares(0.9), computer)?.percent).toBe(10)
    const taken = withPlannedShare(computer, 48)
    expect(taken.devices.map(({ plannedSharePercent }) => plannedSharePercent)).toEqual([48, 80])
    expect(plannedShareBeside(shares(0.22, 0.1), taken)).toBeNull()
  })

  it('is no advice where it is not known, next to nothing, or nobody encodes on the processor', () => {
    expect(plannedShareBeside(shares(0.3, null), computer)).toBeNull()
    expect(plannedShareBeside(shares(0.02, 0.01), computer)).toBeNull()
    expect(plannedShareBeside(shares(0.3), { ...computer, devices: [graphics] })).toBeNull()
  })
})

it('a corrected processor is as much slower, and other devices stay as they are', () => {
  const throughput = { codec: 'h264', effort: 'fine', megapixelsPerSecond: 120 } as const
  const processor = {
    ...newDevice('p', 'Processor'),
    kind: 'processor' as const,
    throughputs: [{ ...throughput, millisecondsAFrame: 2 }, throughput],
  }
  const graphics = { ...processor, id: 'g', kind: 'graphics' as const }
  const computer = {
    name: '',
    devices: [processor, graphics],
    freeDiskGigabytes: null,
    measured: null,
  }
  const { devices } = withLoadCorrected(computer, 1.5)
  expect(devices[0]?.throughputs).toEqual([
    { ...throughput, megapixelsPerSecond: 80, millisecondsAFrame: 3 },
    { ...throughput, megapixelsPerSecond: 80 },
  ])
  expect(devices[1]).toEqual(graphics)
})
