import { readFileSync } from 'node:fs'
import { demoShow } from '@green-mantle/demo'
import papaparse from 'papaparse'
import { describe, expect, it } from 'vitest'
import { inSteps, newTrace, nightPlanOf, runNight, summaryOf } from '../simulation'
import { nightFileJsonSchema, writeNightCsv, writeNightFile, writeNightsCsv } from './nightFile'

const show = { ...demoShow, durationMinutes: 5 }
const plan = nightPlanOf(
  {
    ...show,
    rehearsal: {
      ...show.rehearsal,
      incidents: [{ id: 'cut', kind: 'outage', on: true, atSeconds: 60, durationSeconds: 20 }],
    },
  },
  21,
)
const seconds = newTrace(plan)
const outcome = runNight(plan, 1, 0, inSteps, seconds)

const linesOf = (csv: string): string[][] =>
  papaparse.parse(csv).data.filter((row) => row.length > 1)

describe('a night as a file', () => {
  it('is JSON after its published schema (npm run schemas writes it)', () => {
    const text = writeNightFile({ title: show.title, seed: 1, outcome, seconds })
    const file = JSON.parse(text)
    expect(file).toMatchObject({ format: 'green-mantle-night', version: 2, night: 1, seconds: 300 })
    expect(file.lineKbps).toHaveLength(300)
    expect(file.lineKbps[70]).toBe(0)
    expect(file.sends[0].states).toHaveLength(300)
    expect(file.events.some(({ kind }: { kind: string }) => kind === 'gone')).toBe(true)
    const address = new URL('../../public/schemas/night-2.schema.json', import.meta.url)
    expect(JSON.parse(readFileSync(address, 'utf8'))).toEqual(
      JSON.parse(JSON.stringify(nightFileJsonSchema())),
    )
  })

  it('is CSV with a row a second and send, which a general library reads back', () => {
    const [header, ...rows] = linesOf(writeNightCsv({ outcome, seconds }))
    const data = rows.map((row) =>
      Object.fromEntries(row.map((cell, index) => [header![index]!, cell])),
    )
    expect(data).toHaveLength(300 * outcome.sends.length)
    const lost = data.reduce((sum, row) => sum + Number(row['Lost frames']), 0)
    const all = outcome.sends.reduce(
      (sum, send) => sum + send.lost.line + send.lost.computer + send.lost.destination,
      0,
    )
    expect(lost).toBeCloseTo(all, 0)
    expect(new Set(data.map((row) => row.State))).toContain('gone')
  })

  it('by the thousand is CSV with a row a night, in order', () => {
    const nights = [2, 0, 1].map((night) =>
      summaryOf(runNight(plan, 1, night, inSteps), plan.clean),
    )
    const names = plan.sends.map(({ name }) => name)
    const data = linesOf(writeNightsCsv(nights, names))
    expect(data.slice(1).map(([night]) => night)).toEqual(['1', '2', '3'])
    expect(data[0]).toHaveLength(4 + 4 * names.length)
    // A cut of 20 s keeps nobody within 10 s of being away.
    expect(data[1]!.slice(1, 3)).toEqual(['no', 'line'])
  })
})
