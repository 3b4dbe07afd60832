import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import papaparse from 'papaparse'
import { describe, expect, it } from 'vitest'
import { WebVTTParser } from 'webvtt-parser'
import type { Mark } from '../night'
import {
  chaptersOf,
  writeMarksCsv,
  writeMetadataChapters,
  writeTimesList,
  writeVttChapters,
} from './markFiles'
import { runsOf } from '../../tests/tier'

const zero = Date.parse('2026-12-12T21:00:00Z')
const iso = (seconds: number): string => new Date(zero + seconds * 1000).toISOString()
const mark = (name: string, fromSeconds: number, untilSeconds = fromSeconds): Mark => ({
  ...{ id: `m${fromSeconds}`, name, sceneId: 'petals', who: 'Ines' },
  from: iso(fromSeconds),
  until: iso(untilSeconds),
})
const counted = (marks: Mark[], lengthSeconds = 7200) => ({
  ...{ marks, from: iso(0), until: iso(lengthSeconds), title: 'Night Bloom' },
})
const night = counted([mark('Bud <opens> & breathes', 754.5), mark('', 3600), mark('Early', -20)])

/** Names with everything that one of the formats gives a meaning. */
const names = fc.string({
  unit: fc.constantFrom('a', 'é', ' ', '=', ';', '#', '\\', '<', '>', '&', '-->', '"', '\n', '花'),
  maxLength: 12,
})
const nights = fc.array(
  fc.record({ name: names, at: fc.integer({ min: -50, max: 8000 }), back: fc.nat({ max: 60 }) }),
  { maxLength: 12 },
)

describe('chapters', () => {
  it('follow each other from 0 to the end, whatever was marked', () => {
    fc.assert(
      fc.property(nights, (drafts) => {
        const chapters = chaptersOf(
          counted(drafts.map(({ name, at, back }) => mark(name, at - back, at))),
        )
        expect(chapters[0]?.startMilliseconds).toBe(0)
        expect(chapters.at(-1)?.endMilliseconds).toBe(7_200_000)
        chapters.forEach(({ title, startMilliseconds, endMilliseconds }, index) => {
          expect(title.trim()).not.toBe('')
          expect(endMilliseconds - startMilliseconds).toBeGreaterThanOrEqual(1000)
          const next = chapters[index + 1]
          if (next) expect(next.startMilliseconds).toBe(endMilliseconds)
        })
      }),
    )
  })

  it('as WebVTT are read back by the parser of the format’s authors, without a complaint', () => {
    const { cues, errors } = new WebVTTParser().parse(writeVttChapters(night), 'chapters')
    expect(errors).toEqual([])
    expect(cues.map(({ startTime, endTime, text }) => [startTime, endTime, text])).toEqual([
      [0, 754.5, 'Night Bloom'],
      [754.5, 3600, 'Bud &lt;opens&gt; &amp; breathes'],
      [3600, 7200, 'Mark 2'],
    ])
    fc.assert(
      fc.property(nights, (drafts) => {
        const marks = drafts.map(({ name, at }) => mark(name, at))
        const read = new WebVTTParser().parse(writeVttChapters(counted(marks)), 'chapters')
        expect(read.errors).toEqual([])
        expect(read.cues).toHaveLength(chaptersOf(counted(marks)).length)
      }),
      { numRuns: runsOf(40) },
    )
  })

  it('as metadata are read back by FFmpeg, names and all', () => {
    const folder = mkdtempSync(join(tmpdir(), 'green-mantle-chapters-'))
    try {
      const odd = counted(
        [mark('a=b;c#d\\e', 60), mark('ends in \\', 90), mark('花 "opens"', 120)],
        180,
      )
      writeFileSync(join(folder, 'marks.ffmeta'), writeMetadataChapters(odd))
      const told = execFileSync(
        'ffprobe',
        ['-v', 'error', '-f', 'ffmetadata', '-show_chapters', '-of', 'json', 'marks.ffmeta'],
        { cwd: folder, encoding: 'utf8', timeout: 20_000 },
      )
      const { chapters } = JSON.parse(told) as {
        chapters: { start_time: string; end_time: string; tags: { title: string } }[]
      }
      expect(
        chapters.map(({ start_time, end_time, tags }) => [+start_time, +end_time, tags.title]),
      ).toEqual([
        [0, 60, 'Night Bloom'],
        [60, 90, 'a=b;c#d\\e'],
        [90, 120, 'ends in'],
        [120, 180, '花 "opens"'],
      ])
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  })

  it('as a list of times begin at nought and count hours without a nought before them', () => {
    expect(writeTimesList(night)).toBe(
      '0:00:00 Night Bloom\n0:12:34 Bud <opens> & breathes\n1:00:00 Mark 2\n',
    )
  })
})

describe('marks as a table', () => {
  it('keep stretches as they were made, and run no formula', () => {
    const { data } = papaparse.parse(
      writeMarksCsv(counted([mark('=1+1', 90, 120)]), () => 'Petals wide').trimEnd(),
    )
    expect(data).toEqual([
      ['from_seconds', 'until_seconds', 'at', 'name', 'scene', 'by'],
      ['90', '120', iso(90), "'=1+1", 'Petals wide', 'Ines'],
    ])
  })
})
