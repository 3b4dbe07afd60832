import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Destination, Show } from '../show'
import { destinationChecks } from './connectionChecks'
import { type KeyRecord, keyState } from './keyState'
import { agoInWords, endOf, instantOf, startOf } from './instants'
import { instantInWords } from './showTimes'
import { textLength } from './textLength'
import { thumbnailProblem, wordChecks, wordsAt } from './wordChecks'
import { runsOf } from '../../tests/tier'

const destinationOf = (show: Show, id: string): Destination =>
  show.destinations.find((destination) => destination.id === id)!
const longmeadow = destinationOf(demoShow, 'longmeadow')
const flickerbrook = destinationOf(demoShow, 'flickerbrook')
const record = (changes: Partial<KeyRecord> = {}): KeyRecord => ({
  destinationId: 'flickerbrook',
  storedAt: '2026-12-12T18:00:00.000Z',
  readable: 'yes',
  sameAs: [],
  isAsBefore: false,
  ...changes,
})
/** One hour before the demo begins. */
const before = new Date('2026-12-12T20:00:00Z')

describe('the times of a show', () => {
  it('are instants in its own zone, over a change of clocks too', () => {
    expect(startOf(demoShow).toISOString()).toBe('2026-12-12T21:00:00.000Z')
    expect(endOf(demoShow).toISOString()).toBe('2026-12-12T23:00:00.000Z')
    // Berlin goes from +02:00 to +01:00 at three in the morning of 25 October 2026.
    const autumn = { startsAt: '2026-10-25T01:30', timeZone: 'Europe/Berlin', durationMinutes: 120 }
    expect(startOf(autumn).toISOString()).toBe('2026-10-24T23:30:00.000Z')
    expect(instantInWords(endOf(autumn), autumn)).toBe('25 Oct 2026, 02:30')
    expect(instantOf('2026-12-12T21:00', { timeZone: 'Asia/Kolkata' }).toISOString()).toBe(
      '2026-12-12T15:30:00.000Z',
    )
  })

  it('are said as long ago', () => {
    const ago = (minutes: number) =>
      agoInWords(new Date(before.getTime() - minutes * 60_000), before)
    expect([0, 1, 59, 60, 47 * 60, 48 * 60].map(ago)).toEqual([
      'just now',
      '1 minute ago',
      '59 minutes ago',
      '1 hour ago',
      '47 hours ago',
      '2 days ago',
    ])
  })
})

describe('the state of a key', () => {
  const at = (
    destination: Destination,
    stored: KeyRecord | undefined,
    now: string | Date = before,
  ): string => keyState(destination, stored, demoShow, new Date(now)).state

  it('is missing until it is pasted, and not needed where nothing is pasted', () => {
    expect(at(flickerbrook, undefined)).toBe('missing')
    expect(at(destinationOf(demoShow, 'commonhall'), undefined)).toBe('none needed')
    expect(at(destinationOf(demoShow, 'kilnside'), undefined)).toBe('none needed')
    expect(at({ ...longmeadow, relayId: 'relayhouse' }, undefined)).toBe('none needed')
  })

  it('per session goes stale after its stated life, or once its show has ended', () => {
    expect(at(flickerbrook, record())).toBe('present')
    // Twelve hours are stated.
    expect(at(flickerbrook, record({ storedAt: '2026-12-12T07:59:00Z' }))).toBe('stale')
    expect(at(flickerbrook, record(), '2026-12-12T22:59:00Z')).toBe('present')
    expect(at(flickerbrook, record(), '2026-12-12T23:00:00Z')).toBe('stale')
    const unstated = structuredClone(flickerbrook)
    unstated.rules.key.hours = null
    expect(at(unstated, record({ storedAt: '2026-12-01T07:00:00Z' }))).toBe('present')
    expect(at(unstated, record({ storedAt: '2026-12-01T07:00:00Z' }), '2026-12-13T00:00:00Z')).toBe(
      'stale',
    )
    // Pasted after the show: for the next one, which has not been given its date yet.
    expect(at(unstated, record({ storedAt: '2026-12-13T10:00:00Z' }), '2026-12-13T11:00:00Z')).toBe(
      'present',
    )
  })

  it('per session is stale where last session’s was pasted again; a lasting one is not', () => {
    expect(at(flickerbrook, record({ isAsBefore: true }))).toBe('stale')
    expect(at(longmeadow, record({ isAsBefore: true, storedAt: '2020-01-01T00:00:00Z' }))).toBe(
      'present',
    )
  })

  it('tells a lost key file from damage', () => {
    expect(keyState(longmeadow, record({ readable: 'other key file' }), demoShow, before)).toEqual({
      state: 'unreadable',
      words: 'sealed under another key file: paste it again',
    })
    expect(keyState(longmeadow, record({ readable: 'damaged' }), demoShow, before).words).toContain(
      'damaged',
    )
  })
})

describe('what is not ready', () => {
  const words = (
    change: (show: Show) => void,
    keys: readonly KeyRecord[] | null = null,
    only = 'longmeadow',
  ): string[] => {
    const show = structuredClone(demoShow)
    for (const destination of show.destinations) destination.on = destination.id === only
    change(show)
    return destinationChecks(show, keys, before).map((check) => `${check.tone}: ${check.words}`)
  }
  const key = record({ destinationId: 'longmeadow' })

  it('is nothing where all is there, and nothing is said of keys before the server has', () => {
    expect(words(() => {}, [key])).toEqual([])
    expect(words(() => {})).toEqual([])
    expect(words(() => {}, [])).toEqual(['attention: Longmeadow has no key yet.'])
  })

  it.each<[string, (destination: Destination) => void, RegExp]>([
    ['no address', (d) => (d.serverAddress = ''), /^attention: .* has no server address yet/],
    ['an address of another protocol', (d) => (d.protocol = 'srt'), /^fails: .* wants srt:/],
    [
      'a backup nobody offers',
      (d) => {
        d.rules.offersBackup = false
        d.backupAddress = 'rtmps://second.example/live'
      },
      /offers no backup ingest/,
    ],
    ['a backup without address', (d) => (d.backupAddress = ''), /no address for its backup/],
    [
      'a backup that is the first again',
      (d) => (d.backupAddress = d.serverAddress),
      /same address for its backup/,
    ],
    ['a chat nobody reads', (d) => (d.chatReadBy = ' '), /has a chat that nobody reads/],
    ['no account', (d) => (d.connection = 'linked account'), /not linked to an account/],
    [
      'a mirrored hand-off',
      (d) => {
        d.connection = 'hand-off'
        d.handOff.mirrorsPicture = true
      },
      /back to front/,
    ],
    [
      'a relay that is off',
      (d) => (d.relayId = 'relayhouse'),
      /^fails: Longmeadow gets nothing: its relay is off/,
    ],
  ])('%s', (_, change, expected) => {
    const found = words((show) => change(destinationOf(show, 'longmeadow')), [key])
    expect(found).toHaveLength(1)
    expect(found[0]).toMatch(expected)
  })

  it('a relay is told apart by what it feeds', () => {
    const feed = (count: number) =>
      words(
        (show) => {
          const relay = destinationOf(show, 'relayhouse')
          relay.rules.mostFed = 1
          for (const destination of show.destinations.slice(0, count)) {
            destination.on = true
            destination.relayId = relay.id
            destination.canvas = 'landscape'
            destination.words.title = 'Short'
          }
        },
        [record({ destinationId: 'relayhouse' })],
        'relayhouse',
      ).filter((each) => each.includes('Relayhouse'))
    expect(feed(0)).toEqual(['attention: Relayhouse feeds nothing yet.'])
    expect(feed(1)).toEqual([])
    expect(feed(2)).toEqual(['fails: Relayhouse feeds at most 1, and 2 are on it.'])
    const wrongCanvas = words(
      (show) => {
        destinationOf(show, 'flickerbrook').relayId = 'relayhouse'
        destinationOf(show, 'relayhouse').on = true
      },
      [record({ destinationId: 'relayhouse' })],
      'flickerbrook',
    )
    expect(wrongCanvas).toContain(
      'fails: Flickerbrook gets the landscape canvas from its relay, not the vertical one.',
    )
  })

  it('the same platform on both canvases needs two keys', () => {
    const both = (keys: KeyRecord[]) =>
      words(
        (show) => {
          destinationOf(show, 'tallstory-wide').on = true
          for (const destination of show.destinations) destination.chatReadBy = 'Somebody'
        },
        keys,
        'tallstory-tall',
      )
    const wide = record({ destinationId: 'tallstory-wide' })
    expect(both([wide])).toEqual(['attention: Tallstory tall has no key yet.'])
    expect(
      both([
        { ...wide, sameAs: ['tallstory-tall'] },
        record({ destinationId: 'tallstory-tall', sameAs: ['tallstory-wide'] }),
      ]),
    ).toEqual([
      'fails: Tallstory wide has the same key as Tallstory tall: each needs its own.',
      'fails: Tallstory tall has the same key as Tallstory wide: each needs its own.',
    ])
  })
})

describe('words', () => {
  it('are the show’s until the destination has its own', () => {
    expect(wordsAt(demoShow, longmeadow)).toMatchObject({
      title: demoShow.title,
      description: demoShow.words.description,
      scheduledAt: demoShow.startsAt,
    })
    expect(wordsAt(demoShow, flickerbrook).title).toBe('A flower opens tonight')
  })

  it('are counted as the destination counts', () => {
    // A family of three joined people, an accented letter in two parts, a flower.
    const text = '👩‍👩‍👧e\u0301🌸'
    expect(textLength(text, 'characters')).toBe(3)
    expect(textLength(text, 'code points')).toBe(8)
    expect(textLength(text, 'UTF-16 units')).toBe(12)
    expect(textLength(text, 'UTF-8 bytes')).toBe(18 + 3 + 4)
  })

  it('are counted alike in pieces and as a whole', () => {
    // Clusters of all lengths, flags and joined people among them, which pieces may cut anywhere.
    const letter = fc.oneof(
      fc.string({ unit: 'grapheme', minLength: 1, maxLength: 3 }),
      fc.constantFrom('👩‍👩‍👧‍👦', '🇬🇧🇫🇷🇬', '👍🏽', '\r\n', 'क्षि', 'a'.repeat(90)),
      fc.nat({ max: 600 }).map((marks) => `e${'\u0301'.repeat(marks)}`),
    )
    const whole = new Intl.Segmenter('en', { granularity: 'grapheme' })
    fc.assert(
      fc.property(fc.array(letter, { maxLength: 60 }), (letters) => {
        const text = letters.join('')
        expect(textLength(text, 'characters')).toBe([...whole.segment(text)].length)
      }),
      { numRuns: runsOf(300) },
    )
  })

  it('are counted however long they are', () => {
    // Segmented as a whole, these took a second and a half, and ten times as many no longer ended.
    expect(textLength('ü'.repeat(200_000), 'characters')).toBe(200_000)
    expect(textLength(`e${'\u0301'.repeat(100_000)}`, 'characters')).toBe(1)
  })

  it('have the bytes that a general encoder gives them', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        expect(textLength(text, 'UTF-8 bytes')).toBe(new TextEncoder().encode(text).length)
      }),
    )
  })

  it.each<[string, (destination: Destination) => void, RegExp]>([
    [
      'a long title',
      (d) => (d.words.title = 'x'.repeat(61)),
      /title has 61 characters, at most 60/,
    ],
    ['no title', (d) => (d.words.title = ' '), /there is no title/],
    ['a long tag', (d) => (d.words.tags = ['y'.repeat(25)]), /tag “y+” has 25 characters/],
    ['many tags', (d) => (d.words.tags = [...'abcdefghi']), /9 tags, at most 8/],
    ['an audience it has not', (d) => (d.words.audience = 'unlisted'), /cannot be unlisted there/],
  ])('that would not be taken: %s', (_, change, expected) => {
    const destination = structuredClone(flickerbrook)
    expect(wordChecks(demoShow, destination)).toEqual([])
    change(destination)
    expect(wordChecks(demoShow, destination).map((check) => check.words)).toEqual([
      expect.stringMatching(expected),
    ])
  })

  it('thumbnails are held to their shape, width and bytes', () => {
    const rules = { ratioWidth: 16, ratioHeight: 9, leastWidth: 640, mostBytes: 2_000_000 }
    const picture = (width: number, height: number, byteCount = 100_000) => ({
      fileId: 'a'.repeat(64),
      fileName: 'flower.jpg',
      width,
      height,
      byteCount,
    })
    expect(thumbnailProblem(picture(1280, 720), rules)).toBeNull()
    expect(thumbnailProblem(picture(1281, 720), rules)).toBeNull()
    expect(thumbnailProblem(picture(1080, 1080), rules)).toMatch(/not 16:9/)
    expect(thumbnailProblem(picture(320, 180), rules)).toMatch(/at least 640/)
    expect(thumbnailProblem(picture(1280, 720, 3_000_000), rules)).toMatch(
      /3,000 kB, at most 2,000 kB/,
    )
    expect(thumbnailProblem(null, rules)).toBeNull()
    expect(thumbnailProblem(picture(1, 1), null)).toBeNull()
  })
})
