import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pinnable, type Show, showSchema } from '..'
import {
  recordedLike,
  withConnection,
  withDestination,
  withDestinationOff,
  withDevice,
  withEveryRendition,
  withLine,
  withMedium,
  withoutGoneDevices,
  withoutPin,
  withoutPins,
  withoutTraffic,
  withPlanOf,
  withRecording,
  withRecordingOff,
  withRenditionsOf,
  withSendingOf,
} from '.'

const relay = demoShow.destinations.find(({ connection }) => connection === 'relay')!
const pinnedShow = withEveryRendition(demoShow, (each) => ({ ...each, pins: [...pinnable] }))

/** Names of the parts of a show that an edit made anew. */
const changedParts = (before: Show, after: Show): string[] =>
  Object.keys(before).filter((name) => before[name as keyof Show] !== after[name as keyof Show])

describe('an edit', () => {
  const anyDestination = fc.constantFrom(...demoShow.destinations)
  const edits = {
    destinations: [
      (id: string) => withDestinationOff(demoShow, id),
      (id: string) => withPlanOf(demoShow, id, { priority: 3 }),
      (id: string) => withSendingOf(demoShow, id, { whenBehind: 'hold' }),
      (id: string) => withoutPin(demoShow, id, 'size'),
      (id: string) => withRenditionsOf(demoShow, id, (each) => ({ ...each, pins: ['codec'] })),
    ],
  }

  it('of one destination leaves all others, and all else of the show, the very same', () => {
    fc.assert(
      fc.property(anyDestination, fc.constantFrom(...edits.destinations), ({ id }, edit) => {
        const after = edit(id)
        expect(changedParts(demoShow, after)).toEqual(['destinations'])
        after.destinations.forEach((destination, index) => {
          if (destination.id !== id) expect(destination).toBe(demoShow.destinations[index])
        })
        expect(showSchema.safeParse(after).success).toBe(true)
      }),
    )
  })

  it('of what is not there changes nothing', () => {
    expect(withDestinationOff(demoShow, 'nobody')).toEqual(demoShow)
    expect(withRecordingOff(demoShow, 'nobody')).toEqual(demoShow)
    expect(withDevice(demoShow, 'nobody', (each) => ({ ...each, sessions: 1 }))).toEqual(demoShow)
    expect(withoutTraffic(demoShow, 'nobody')).toEqual(demoShow)
  })

  it('never alters the show it is given', () => {
    const before = JSON.stringify(demoShow)
    for (const { id } of demoShow.destinations) for (const edit of edits.destinations) edit(id)
    withMedium(demoShow, 'wifi')
    withEveryRendition(demoShow, (each) => withoutPins(each, () => true))
    expect(JSON.stringify(demoShow)).toBe(before)
  })
})

describe('a connection', () => {
  const fed = withDestination(
    demoShow,
    demoShow.destinations.find(({ id }) => id !== relay.id)!.id,
    (each) => ({ ...each, relayId: relay.id }),
  )

  it('that is no relay any more feeds nobody', () => {
    const after = withConnection(fed, relay.id, 'address and key')
    expect(after.destinations.filter(({ relayId }) => relayId === relay.id)).toEqual([])
  })

  it('that becomes a relay is fed by none itself', () => {
    const { id } = fed.destinations.find(({ relayId }) => relayId === relay.id)!
    const after = withConnection(fed, id, 'relay')
    expect(after.destinations.find((each) => each.id === id)).toMatchObject({
      connection: 'relay',
      relayId: null,
    })
    expect(showSchema.safeParse(after).success).toBe(true)
  })
})

describe('pins', () => {
  it('are let go of one cell in every step of a ladder, and nowhere else', () => {
    const ladder = pinnedShow.destinations.find(({ renditions }) => renditions.length > 1)!
    const after = withoutPin(pinnedShow, ladder.id, 'codec')
    for (const { id, renditions } of after.destinations)
      for (const { pins } of renditions) expect(pins.includes('codec')).toBe(id !== ladder.id)
    for (const { rendition } of after.recordings) expect(rendition.pins).toEqual([...pinnable])
  })
})

describe('a line', () => {
  it('is the one that the show goes up', () => {
    const other = { ...demoShow.lines[0]!, id: 'other', name: 'Other' }
    const two = { ...demoShow, lines: [other, ...demoShow.lines] }
    const after = withLine(two, (line) => ({ ...line, headroomPercent: 7 }))
    expect(after.lines.filter(({ headroomPercent }) => headroomPercent === 7)).toHaveLength(1)
    expect(after.lines[0]).toBe(other)
  })
})

describe('a recording', () => {
  it('like a send is all held, and allowed what it then is', () => {
    const [recording] = demoShow.recordings
    const sent = {
      ...demoShow.destinations[0]!.renditions[0]!,
      codec: 'av1' as const,
      videoBitrateKbps: recording!.mostVideoBitrateKbps + 500,
    }
    const like = recordedLike(recording!, sent)
    expect(like.codecs).toContain('av1')
    expect(like.mostVideoBitrateKbps).toBe(sent.videoBitrateKbps)
    expect(like.rendition.pins).toEqual([...pinnable])
    expect(like.rendition.id).toBe(recording!.rendition.id)
    const after = withRecording(demoShow, recording!.id, () => like)
    expect(showSchema.safeParse(after).success).toBe(true)
  })
})

describe('a computer', () => {
  it('without a device leaves what was encoded there to another', () => {
    const [gone] = demoShow.computer.devices
    const onIt = withEveryRendition(demoShow, (each) => ({
      ...each,
      encoder: { ...each.encoder, deviceId: gone!.id },
    }))
    const devices = demoShow.computer.devices.filter((each) => each !== gone)
    const after = withoutGoneDevices({ ...onIt, computer: { ...onIt.computer, devices } })
    const all = [
      ...after.destinations.flatMap(({ renditions }) => renditions),
      ...after.recordings.map(({ rendition }) => rendition),
    ]
    expect(all.map(({ encoder }) => encoder.deviceId)).toEqual(all.map(() => null))
  })
})
