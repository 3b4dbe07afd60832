import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { verdictOf } from '../fit'
import { defaultDressing } from '../show'
import { readShowFile, showFileVersion, writeShowFile } from '.'

/** Written by the application when version 1 was the present one. */
const version1 = readFileSync(new URL('fixtures/version-1.show.json', import.meta.url), 'utf8')

describe('a show file of version 1', () => {
  const read = readShowFile(version1)
  const show = read.ok ? read.show : undefined

  it('is read as a show of today', () => {
    expect(read.ok).toBe(true)
    expect(show?.dressing).toEqual(defaultDressing)
    expect(show?.scenes[0]?.layers[1]?.landscape).toMatchObject({
      x: 60,
      width: 660,
      opacityPercent: 100,
      cornerRadius: null,
      dressed: true,
    })
    expect(show?.destinations.map(({ coverZones }) => coverZones)).toEqual(
      show?.destinations.map(() => []),
    )
  })

  it('gives its words the size at which they filled their box', () => {
    const caption = show?.sources.find(({ id }) => id === 'caption')
    // 900 px for 33 characters of 0.52 em.
    expect(caption?.appearance).toMatchObject({ type: 'text', sizePixels: 52, wrap: true })
  })

  it('is written in the present version', () => {
    expect(show && JSON.parse(writeShowFile(show)).version).toBe(showFileVersion)
    expect(show && readShowFile(writeShowFile(show))).toEqual(read)
  })

  it('says where it is broken in spite of that', () => {
    const broken = readShowFile(version1.replace('"x": 60,', '"x": "left",'))
    expect(broken.ok === false && broken.problems[0]?.place).toBe(
      'show.scenes[0].layers[0].vertical.x',
    )
  })
})

/** Written by the application when version 2 was the present one. */
const version2 = readFileSync(new URL('fixtures/version-2.show.json', import.meta.url), 'utf8')

describe('a show file of version 2', () => {
  const read = readShowFile(version2)
  const show = read.ok ? read.show : undefined

  it('keeps its line as the first of several, with every sample', () => {
    const before = JSON.parse(version2).show.line
    expect(show?.lineId).toBe(show?.lines[0]?.id)
    expect(show?.lines).toHaveLength(1)
    expect(show?.lines[0]).toMatchObject({
      name: before.name,
      headroomPercent: before.headroomPercent,
      lowPercentile: 10,
      medium: null,
      otherTraffic: before.otherTraffic,
    })
    expect(show?.lines[0]?.samples).toEqual(
      before.samples.map((sample: object) => ({ retransmits: null, ...sample })),
    )
  })

  it('keeps what its destinations accept, and fits as it did', () => {
    const before = JSON.parse(version2).show.destinations
    show?.destinations.forEach((destination, index) => {
      expect(destination.rules).toMatchObject(before[index].rules)
      expect(destination.relayId).toBeNull()
      expect(destination.backupAddress).toBeNull()
    })
    expect(show && verdictOf(show)).toMatchObject({ state: 'fits', breaches: [] })
    expect(show?.destinations.map(({ rules }) => rules.end)).toContain('pressed on its page')
  })
})

/** Written by the application when version 4 was the present one. */
const version4 = readFileSync(new URL('fixtures/version-4.show.json', import.meta.url), 'utf8')

describe('a show file of version 4', () => {
  const shownBy = (text: string) => {
    const read = readShowFile(text)
    return read.ok ? read.show : undefined
  }

  it('keeps what it was fitted to, and trusts no newer codec', () => {
    const before = JSON.parse(version4).show
    const show = shownBy(version4)
    expect(show?.fit).toEqual({
      ...before.fit,
      marginPoints: 0.5,
      shapeMarginPoints: 2,
      newerCodecs: false,
    })
    show?.destinations.forEach((destination, index) => {
      expect(destination.renditions).toEqual(before.destinations[index].renditions)
      expect(destination.plan).toEqual({
        ...before.destinations[index].plan,
        planned: false,
        newerCodecs: null,
      })
    })
  })

  it('that planned by itself holds what its last plan set', () => {
    const show = shownBy(version4.replace('"automatic": false', '"automatic": true'))
    for (const { plan } of [...(show?.destinations ?? []), ...(show?.recordings ?? [])])
      expect(plan.planned).toBe(true)
  })
})

/** Written by the application when version 3 was the present one. */
const version3 = readFileSync(new URL('fixtures/version-3.show.json', import.meta.url), 'utf8')

describe('a show file of version 3', () => {
  const read = readShowFile(version3)
  const show = read.ok ? read.show : undefined

  it('keeps every cell as it was set by hand, and plans nothing by itself', () => {
    const before = JSON.parse(version3).show.destinations
    show?.destinations.forEach((destination, index) => {
      expect(destination.renditions).toMatchObject(before[index].renditions)
      expect(destination.plan).toMatchObject({ leftOut: false, routePinned: true })
    })
    expect(show?.fit.automatic).toBe(false)
    expect(show?.recordings).toEqual([])
    expect(show?.computer.devices).toEqual([])
    expect(show && verdictOf(show)).toMatchObject({ state: 'fits', breaches: [] })
  })
})

/** Written by the application when version 5 was the present one. */
const version5 = readFileSync(new URL('fixtures/version-5.show.json', import.meta.url), 'utf8')

describe('a show file of version 5', () => {
  it('was never rehearsed, and its senders drop frames as they always did', () => {
    const read = readShowFile(version5)
    expect(read.ok).toBe(true)
    const show = read.ok ? read.show : undefined
    expect(show?.rehearsal).toMatchObject({ incidents: [], wantedPercent: 95, last: null })
    for (const { sending } of show?.destinations ?? [])
      expect(sending).toMatchObject({
        whenBehind: 'drop',
        reconnectAfterSeconds: 2,
        reconnectTries: 25,
      })
    const before = JSON.parse(version5).show
    expect(show?.destinations.map(({ name }) => name)).toEqual(
      before.destinations.map(({ name }: { name: string }) => name),
    )
  })
})

/** Written by the application when version 6 was the present one. */
const version6 = readFileSync(new URL('fixtures/version-6.show.json', import.meta.url), 'utf8')

describe('a show file of version 6', () => {
  it('has a computer that was not measured, whose loads are what they were', () => {
    const read = readShowFile(version6)
    expect(read.ok).toBe(true)
    const show = read.ok ? read.show : undefined
    expect(show?.computer.measured).toBeNull()
    const { measured: _, ...computer } = show!.computer
    expect(computer).toEqual(JSON.parse(version6).show.computer)
    expect(show?.destinations.every(({ renditions }) => renditions.length > 0)).toBe(true)
  })
})

/** Written by the application when version 7 was the present one. */
const version7 = readFileSync(new URL('fixtures/version-7.show.json', import.meta.url), 'utf8')

describe('a show file of version 7', () => {
  it('has an order of the night that nobody touched, and pages that lag as most do', () => {
    const read = readShowFile(version7)
    expect(read.ok).toBe(true)
    const show = read.ok ? read.show : undefined
    expect(show?.runSheet).toEqual({
      people: [],
      marginMinutes: 5,
      changes: [],
      ownTasks: [],
      seen: null,
    })
    for (const { lagSeconds } of show!.destinations) expect(lagSeconds).toBe(8)
    expect(show?.rehearsal).toEqual(JSON.parse(version7).show.rehearsal)
  })
})

/** Written by the application when version 8 was the present one. */
const version8 = readFileSync(new URL('fixtures/version-8.show.json', import.meta.url), 'utf8')

describe('a show file of version 8', () => {
  it('has no picture that was measured, and all else as it was', () => {
    const read = readShowFile(version8)
    expect(read).toEqual({ ok: true, show: { ...JSON.parse(version8).show, ownPicture: null } })
  })
})

/** Written by the application when version 10 was the present one. */
const version10 = readFileSync(new URL('fixtures/version-10.show.json', import.meta.url), 'utf8')

describe('a show file of version 10', () => {
  it('has no ingest with chunks of its own, and all as it was', () => {
    const read = readShowFile(version10)
    expect(read).toEqual({ ok: true, show: JSON.parse(version10).show })
  })
})

/** Written by the application when version 9 was the present one. */
const version9 = readFileSync(new URL('fixtures/version-9.show.json', import.meta.url), 'utf8')

describe('a show file of version 9', () => {
  it('has no encoder of which is known what it gets out of a bit, and all as it was', () => {
    const read = readShowFile(version9)
    expect(read).toEqual({ ok: true, show: JSON.parse(version9).show })
  })
})

/** Written by the application when version 11 was the present one. */
const version11 = readFileSync(new URL('fixtures/version-11.show.json', import.meta.url), 'utf8')

describe('a show file of version 11', () => {
  it('has no scene that comes in a way of its own, and all as it was', () => {
    const read = readShowFile(version11)
    expect(read).toEqual({ ok: true, show: JSON.parse(version11).show })
  })
})
