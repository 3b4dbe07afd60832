import { plannedDemoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { canvasEncodesOf } from '../encoding'
import type { Show } from '../show'
import { canvasLane, dropsInstead, encodeLane, maxLanes, splitByMaker } from './lanes'

function sendingAs(whenBehind: (index: number) => 'lower' | 'drop'): Show {
  const show = structuredClone(plannedDemoShow)
  show.destinations.forEach((destination, index) => {
    destination.sending.whenBehind = whenBehind(index)
  })
  return show
}
const splitOf = (show: Show) => canvasEncodesOf(show).map(splitByMaker)

describe('who makes an encode', () => {
  it('is the program, where nobody lowers', () => {
    for (const { byProgram, byWindow } of splitOf(sendingAs(() => 'drop'))) {
      expect(byWindow).toEqual([])
      expect(byProgram.encodes.length).toBeGreaterThan(0)
    }
  })

  it('is the window for H.264 of those who all lower, and each encode has one maker', () => {
    const show = sendingAs(() => 'lower')
    const split = splitOf(show)
    expect(split.some(({ byWindow }) => byWindow.length > 0)).toBe(true)
    canvasEncodesOf(show).forEach((canvas, index) => {
      const { byProgram, byWindow } = split[index]!
      expect(byProgram.encodes.length + byWindow.length).toBe(canvas.encodes.length)
      for (const { encode, outputs } of byWindow) {
        expect(encode.rendition.codec).toBe('h264')
        expect(outputs.some(({ feed }) => feed.isRecording)).toBe(false)
      }
      // What is recorded keeps its bitrate.
      for (const each of canvas.encodes)
        if (each.outputs.some(({ feed }) => feed.isRecording))
          expect(byProgram.encodes).toContainEqual(each)
    })
  })

  it('is the program for one encode of two of whom one only drops', () => {
    const [canvas] = canvasEncodesOf(sendingAs(() => 'lower'))
    const one = splitByMaker(canvas!).byWindow[0] ?? canvas!.encodes[0]!
    const [output] = one.outputs
    const lowers = { ...output!, sending: { ...output!.sending!, whenBehind: 'lower' as const } }
    const drops = { ...output!, sending: { ...output!.sending!, whenBehind: 'drop' as const } }
    const encode = {
      ...one.encode,
      rendition: { ...one.encode.rendition, codec: 'h264' as const },
    }
    const makerOf = (outputs: typeof one.outputs) =>
      splitByMaker({ ...canvas!, encodes: [{ encode, outputs }] }).byWindow.length
    expect([makerOf([lowers, lowers]), makerOf([lowers, drops])]).toEqual([1, 0])
    expect(makerOf([{ ...lowers, sending: null }])).toBe(0)
  })

  it('is the program again for more than there are lanes', () => {
    const [canvas] = canvasEncodesOf(sendingAs(() => 'lower'))
    const one = canvas!.encodes.find(({ encode }) => encode.rendition.codec === 'h264')!
    const [output] = one.outputs
    const outputs = [{ ...output!, sending: { ...output!.sending!, whenBehind: 'lower' as const } }]
    const encodes = Array.from({ length: maxLanes + 4 }, () => ({ ...one, outputs }))
    const { byProgram, byWindow } = splitByMaker({ ...canvas!, encodes })
    expect([byWindow.length, byProgram.encodes.length]).toEqual([maxLanes - 1, 5])
  })
})

describe('who is planned to lower', () => {
  const show = sendingAs(() => 'lower')
  const sent = new Set(
    canvasEncodesOf(show).flatMap(({ encodes }) =>
      encodes.flatMap(({ outputs }) => outputs.map(({ feed }) => feed.ownerId)),
    ),
  )
  const names = (ids: (id: string) => boolean): string[] =>
    show.destinations.filter(({ id }) => sent.has(id) && ids(id)).map(({ name }) => name)

  it('drops instead where a program draws or encodes, and nobody where all only drop', () => {
    expect(dropsInstead(show, () => false)).toEqual(names(() => true))
    const byWindow = new Set(
      splitOf(show).flatMap((split) =>
        split.byWindow.flatMap(({ outputs }) => outputs.map(({ feed }) => feed.ownerId)),
      ),
    )
    expect(dropsInstead(show, () => true)).toEqual(names((id) => !byWindow.has(id)))
    expect(
      dropsInstead(
        sendingAs(() => 'drop'),
        () => false,
      ),
    ).toEqual([])
  })
})

describe('a lane', () => {
  it('is as large, fast and often keyed as what is planned; the first as the canvas', () => {
    const [canvas] = canvasEncodesOf(plannedDemoShow)
    const { encode } = canvas!.encodes[0]!
    expect(encodeLane(canvas!.canvas, 3, encode)).toEqual({
      ...{ canvas: canvas!.canvas, lane: 3 },
      ...{ width: encode.rendition.width, height: encode.rendition.height },
      framesPerSecond: encode.rendition.framesPerSecond,
      keyframeSeconds: encode.rendition.keyframeIntervalSeconds,
      videoKbps: encode.rendition.videoBitrateKbps,
    })
    expect(canvasLane(plannedDemoShow, 'vertical')).toMatchObject({
      ...plannedDemoShow.canvasPair.vertical,
      lane: 0,
    })
  })
})
