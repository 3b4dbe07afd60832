import { readFileSync } from 'node:fs'
import { demoShow } from '@green-mantle/demo'
import Ajv2020 from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { type Happening, nightOrder, nightState, wrapUp } from '../night'
import { writeWrapUp, wrapUpFileJsonSchema, wrapUpFileVersion } from './wrapUpFile'

const address = new URL(
  `../../public/schemas/wrap-up-${wrapUpFileVersion}.schema.json`,
  import.meta.url,
)
const happenings: Happening[] = [
  { kind: 'begun' },
  { kind: 'ticked', taskId: 'on-air', title: 'Begin', knowingly: false },
  { kind: 'marked', markId: 'a', name: 'Bud', sceneId: null, backSeconds: 30 },
  { kind: 'trouble', destinationId: 'longmeadow', name: 'Longmeadow', trouble: 'hung up' },
  {
    ...{ kind: 'sent', destinationId: 'longmeadow', name: 'Longmeadow', isBackup: false },
    ...{ seconds: 60, meanKbps: 5200.5, plannedKbps: 5460 },
    ...{ sentFrames: 970, lostFrames: 3, reconnects: 1 },
    viewed: { awaySeconds: 7, freezes: 1, frozenSeconds: 3 },
  },
  {
    ...{ kind: 'carried', seconds: 60, meanKbps: 8100 },
    shortages: [{ startedAt: '2026-12-12T21:03:00Z', seconds: 20, carriedKbps: 7000 }],
  },
  {
    ...{ kind: 'encoded', canvas: 'landscape', seconds: 60, speed: 1 },
    ...{ processorShare: 0.4, pictureShare: null, plannedShare: null },
  },
  { kind: 'recorded', name: 'Archive', file: '/a.mkv', seconds: null, megabytes: 1.5 },
]
const night = nightState(
  happenings.map((happening, index) => ({
    ...{ id: `${index}`, sequence: index + 1, who: 'Ines', happening },
    at: new Date(Date.UTC(2026, 11, 12, 21, index)).toISOString(),
  })),
)

describe('a wrap-up as a file', () => {
  it('is after its published schema (npm run schemas writes it), by a general validator (Ajv)', () => {
    const published = JSON.parse(readFileSync(address, 'utf8')) as object
    expect(published).toEqual(JSON.parse(JSON.stringify(wrapUpFileJsonSchema())))
    const wrapped = wrapUp(demoShow, nightOrder(demoShow), night, new Set(), new Date())
    const file = JSON.parse(writeWrapUp(demoShow, wrapped)) as { wrapUp: { marks: unknown[] } }
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(published)
    expect(validate(file), JSON.stringify(validate.errors)).toBe(true)
    expect(file.wrapUp.marks).toHaveLength(1)
    expect(validate({ ...file, wrapUp: { ...file.wrapUp, marks: [{}] } })).toBe(false)
  })

  it('is written of a night that has not begun, too', () => {
    const wrapped = wrapUp(demoShow, nightOrder(demoShow), nightState([]), new Set(), new Date())
    expect(() => writeWrapUp(demoShow, wrapped)).not.toThrow()
  })
})
