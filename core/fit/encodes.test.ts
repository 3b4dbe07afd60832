import { describe, expect, it } from 'vitest'
import { demoShow } from '@green-mantle/demo'
import { type Destination, newDestination, type Recording } from '../show'
import { deviceUses, diskUseGigabytes, encodesOf, namesServed } from './encodes'
import { overloads } from './overloads'

let last = 0
const destination = (changes: Partial<Destination> = {}): Destination => ({
  ...newDestination(() => `id-${(last += 1)}`, 'One', 'landscape'),
  ...changes,
})

const count = (destinations: Destination[], recordings: Recording[] = []): number =>
  encodesOf({ destinations, recordings }).length

describe('encodes', () => {
  it('shares one between renditions that are alike in every respect', () => {
    expect(count([destination(), destination()])).toBe(1)
  })

  it('does not share across canvases, settings or with a hand-off', () => {
    const other = destination()
    const faster = {
      ...other,
      renditions: [{ ...other.renditions[0]!, framesPerSecond: 60 as const }],
    }
    expect(count([destination(), faster])).toBe(2)
    expect(count([destination(), destination({ canvas: 'vertical' })])).toBe(2)
    expect(count([destination(), destination({ connection: 'hand-off' })])).toBe(2)
  })
})

describe('a recording', () => {
  const [recording] = demoShow.recordings as [Recording]

  it('joins the encode of a send with the same picture, whatever its sound', () => {
    const sent = destination()
    const same = { ...recording, rendition: { ...sent.renditions[0]!, audioBitrateKbps: 320 } }
    expect(count([sent], [same])).toBe(1)
    expect(count([sent], [recording])).toBe(2)
    expect(encodesOf({ destinations: [sent], recordings: [same] }).map(namesServed)[0]).toEqual([
      'One',
      recording.name,
    ])
  })

  it('takes (video + audio) · length / 8 of the disk', () => {
    // 16,320 kb/s for two hours: 16.32e6 / 8 · 7200 bytes.
    expect(diskUseGigabytes({ recordings: [recording], durationMinutes: 120 })).toBeCloseTo(
      14.688,
      6,
    )
  })
})

describe('what the computer cannot do', () => {
  const on = (deviceId: string, changes: object = {}): Destination => {
    const made = destination()
    const [rendition] = made.renditions
    return {
      ...made,
      renditions: [{ ...rendition!, ...changes, encoder: { ...rendition!.encoder, deviceId } }],
    }
  }
  const check = (destinations: Destination[], recordings: Recording[] = []) =>
    overloads({ ...demoShow, destinations, recordings })

  it('is nothing where all fits', () => {
    expect(check([on('desktop-graphics')])).toEqual([])
  })

  it('is more encodes than a device runs at once', () => {
    const four = [400, 500, 600, 700].map((videoBitrateKbps) =>
      on('desktop-graphics', { videoBitrateKbps }),
    )
    expect(check(four)[0]?.sentence).toBe('Graphics encoder runs 3 encodes at once, not 4')
  })

  it('is more than the planned share of a device', () => {
    // 1920 · 1080 · 60 / 1e6 = 124.4 of 130 megapixels a second.
    const [found] = check([
      on('desktop-processor', { width: 1920, height: 1080, framesPerSecond: 60, effort: 'fine' }),
    ])
    expect(found?.sentence).toBe('Processor, 8 cores would be 96 % busy, planned to 80 %')
  })

  it('is a codec that a device does not have', () => {
    expect(check([on('desktop-graphics', { codec: 'av1' })])[0]?.sentence).toBe(
      'Graphics encoder cannot encode for One',
    )
  })

  it('is a recording larger than the disk', () => {
    const small = { ...demoShow.computer, freeDiskGigabytes: 10 }
    const [found] = overloads({ ...demoShow, destinations: [], computer: small })
    expect(found?.sentence).toBe('the recording needs 14.7 GB of 10.0 GB free')
  })

  it('loads a device once for what several share', () => {
    const shared = [on('desktop-graphics'), on('desktop-graphics')]
    const [, graphics] = deviceUses({ ...demoShow, destinations: shared, recordings: [] })
    expect(graphics?.encodes).toHaveLength(1)
    expect(graphics?.load).toBeCloseTo((1280 * 720 * 30) / 1e6 / 900, 9)
  })
})
