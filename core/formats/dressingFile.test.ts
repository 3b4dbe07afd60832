import { readFileSync } from 'node:fs'
import Ajv2020 from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { defaultDressing } from '../show'
import { dressingFileJsonSchema, readDressingFile, writeDressingFile } from './dressingFile'

describe('a dressing file', () => {
  const text = writeDressingFile(defaultDressing)
  it('comes back as it was', () => {
    expect(readDressingFile(text)).toEqual({ ok: true, value: defaultDressing })
  })

  it.each([
    ['damaged', text.slice(0, 50), /^line/],
    ['of another kind', text.replace('green-mantle-dressing', 'other'), /^format$/],
    ['too new', text.replace('"version": 1', '"version": 9'), /^version$/],
    ['too large', ' '.repeat(200_000), /whole file/],
    ['breaks the schema', text.replace('#2f5d3a', 'green'), /^dressing\.goalBar\.filledColour$/],
  ])('that is %s is refused with the place', (reason, broken, place) => {
    const read = readDressingFile(broken)
    expect(read).toMatchObject({ ok: false, reason })
    expect(read.ok === false && read.problems[0]!.place).toMatch(place)
  })

  it('has a published schema, which a general validator (Ajv) takes and keeps', () => {
    const address = new URL('../../public/schemas/dressing-1.schema.json', import.meta.url)
    const published = JSON.parse(readFileSync(address, 'utf8'))
    expect(published).toEqual(dressingFileJsonSchema())
    const validate = new Ajv2020().compile(published)
    expect(validate(JSON.parse(text))).toBe(true)
    expect(validate(JSON.parse(text.replace('"#2f5d3a"', '"green"')))).toBe(false)
  })
})
