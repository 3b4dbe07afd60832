import { readFileSync } from 'node:fs'
import { demoShow } from '@green-mantle/demo'
import Ajv2020 from 'ajv/dist/2020'
import fc from 'fast-check'
import papaparse from 'papaparse'
import { describe, expect, it } from 'vitest'
import { lineOf, type Show } from '../show'
import {
  readShowFile,
  settingsSheetColumns,
  showFileJsonSchema,
  showFileLimitBytes,
  showFileVersion,
  writeSettingsSheet,
  writeShowFile,
} from '.'
import { runsOf } from '../../tests/tier'

const text = writeShowFile(demoShow)

describe('show file', () => {
  it('comes back as it was', () => {
    expect(readShowFile(text)).toEqual({ ok: true, show: demoShow })
  })

  it('comes back as it was, whatever a person typed', () => {
    const words = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 60 })
    const coordinate = fc
      .double({ min: -32768, max: 32768, noNaN: true })
      .map((x) => (x === 0 ? 0 : x))
    fc.assert(
      fc.property(words, words, coordinate, fc.boolean(), (title, note, x, on) => {
        const show: Show = structuredClone(demoShow)
        show.title = title
        lineOf(show).samples[0]!.note = note
        show.scenes[0]!.layers[0]!.landscape.x = x
        show.destinations[0]!.on = on
        expect(readShowFile(writeShowFile(show))).toEqual({ ok: true, show })
      }),
    )
  })

  const changed = (from: string, to: string) => text.replace(from, to)
  it.each([
    ['damaged', text.slice(0, 400), /^line \d+, column \d+$/],
    ['damaged', text.replace(/"version": \d+,/, '$&,'), /^line 3, column 17$/],
    ['damaged', '', /./],
    ['of another kind', '{"format":"other","version":1}', /^format$/],
    ['of another kind', '[1, 2]', /^format$/],
    [
      'too new',
      changed(`"version": ${showFileVersion}`, `"version": ${showFileVersion + 1}`),
      /^version$/,
    ],
    ['too large', ' '.repeat(showFileLimitBytes + 1), /whole file/],
    [
      'breaks the schema',
      changed('"headroomPercent": 30', '"headroomPercent": 300'),
      /^show\.lines\[0\]\.headroomPercent$/,
    ],
    [
      'breaks the schema',
      changed('"sourceId": "seed-fund"', '"sourceId": "nobody"'),
      /^show\.scenes\[0\]\.layers\[0\]\.sourceId$/,
    ],
    ['breaks the schema', changed('"title"', '"heading"'), /^show/],
    // Half of a character, which a store would keep as another one.
    ['breaks the schema', changed('Night Bloom', 'Night \\ud83c'), /^show\.title$/],
  ])('that is %s is refused with the place named', (reason, broken, place) => {
    const result = readShowFile(broken)
    expect(result).toMatchObject({ ok: false, reason })
    if (!result.ok) {
      expect(result.problems[0]?.place).toMatch(place)
      expect(result.problems[0]?.message).not.toBe('')
    }
  })

  it('counts bytes, not characters', () => {
    expect(readShowFile('é'.repeat(showFileLimitBytes / 2 + 1))).toMatchObject({
      reason: 'too large',
    })
  })

  it('never throws, however it is damaged', () => {
    fc.assert(
      fc.property(fc.nat({ max: text.length - 1 }), fc.string({ maxLength: 5 }), (at, junk) => {
        const result = readShowFile(text.slice(0, at) + junk + text.slice(at + 1))
        if (!result.ok) expect(result.problems.length).toBeGreaterThan(0)
      }),
      { numRuns: runsOf(500) },
    )
  })
})

describe('a file that is nested too deeply', () => {
  const deep = (count: number, inner = '1') => '['.repeat(count) + inner + ']'.repeat(count)

  it('is refused in words, damaged or not', () => {
    expect(readShowFile('['.repeat(200_000))).toMatchObject({
      reason: 'damaged',
      problems: [{ message: 'too many brackets stand within each other' }],
    })
    expect(readShowFile(deep(200_000)).ok).toBe(false)
  })

  it('has its half characters found', () => {
    const place = `a${'[0]'.repeat(19)} …`
    const text = `{"a":${deep(20_000, '"\\ud800"')},"\\udc00":1,"b":["\\ud83d"]}`
    const read = readShowFile(text)
    expect(read.ok ? [] : read.problems.map((problem) => problem.place)).toEqual([
      ...[place, '\udc00', 'b[0]'],
    ])
  })
})

describe('published schema', () => {
  it('is what the schemas say now (npm run schemas writes it)', () => {
    const published = readFileSync(
      new URL(`../../public/schemas/show-${showFileVersion}.schema.json`, import.meta.url),
      'utf8',
    )
    expect(JSON.parse(published)).toEqual(JSON.parse(JSON.stringify(showFileJsonSchema())))
  })

  it('accepts the demo and refuses a broken one, by a general validator (Ajv)', () => {
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(
      showFileJsonSchema(),
    )
    expect(validate(JSON.parse(text))).toBe(true)
    expect(validate(JSON.parse(text.replace('"cable"', '"string"')))).toBe(false)
  })
})

describe('settings sheet', () => {
  it.each([' =1+1', '\u3000@sum', '＝cmd', '\t-2', '+3'])(
    'lets no spreadsheet take %j for a formula',
    (name) => {
      const awkward: Show = structuredClone(demoShow)
      awkward.destinations[0]!.name = name
      const { data } = papaparse.parse(writeSettingsSheet(awkward).trimEnd())
      expect(data[1]?.[0]).toBe(`'${name}`)
    },
  )

  // RFC 4180: lines end in CRLF, and a field with a comma, quote or line break is quoted.
  it('is CSV that a general reader takes', () => {
    const awkward: Show = structuredClone(demoShow)
    awkward.destinations[0]!.name = 'Long, "wide"\nmeadow'
    const sheet = writeSettingsSheet(awkward)
    expect(sheet.endsWith('\r\n')).toBe(true)
    const { data, errors } = papaparse.parse(sheet.trimEnd())
    expect(errors).toEqual([])
    expect(data[0]).toEqual([...settingsSheetColumns])
    // The names, three sends and a recording.
    expect(data).toHaveLength(5)
    expect(data[4]?.slice(0, 3)).toEqual(['Archive file', 'landscape', 'recording, archive mix'])
    expect(data[1]?.[0]).toBe('Long, "wide"\nmeadow')
    expect(data.every((row) => row.length === settingsSheetColumns.length)).toBe(true)
  })

  it('carries the values of the send', () => {
    const { data } = papaparse.parse(writeSettingsSheet(demoShow))
    const row = Object.fromEntries(
      settingsSheetColumns.map((name, index) => [name, data[2]?.[index]]),
    )
    expect(row).toMatchObject({
      Destination: 'Flickerbrook',
      Canvas: 'vertical',
      'Width (px)': '1080',
      'Video bitrate (kb/s)': '3150',
      Level: '4',
      'Audio sample rate': '44.1 kHz',
    })
  })

  it('defuses what a spreadsheet would run', () => {
    const sly: Show = structuredClone(demoShow)
    sly.destinations[0]!.name = '=HYPERLINK("x")'
    expect(papaparse.parse(writeSettingsSheet(sly)).data[1]?.[0]).toBe(`'=HYPERLINK("x")`)
  })
})
