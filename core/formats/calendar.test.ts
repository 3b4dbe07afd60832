import { demoShow } from '@green-mantle/demo'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { runUpDates } from '../destinations'
import type { Show } from '../show'
import { writeCalendar } from './calendar'

const writtenAt = new Date('2026-12-01T12:00:00Z')
/** Read by a general library. */
function read(show: Show) {
  const root = new ICAL.Component(ICAL.parse(writeCalendar(show, 'abc', writtenAt)) as unknown[])
  return root.getAllSubcomponents('vevent').map((component) => {
    const event = new ICAL.Event(component)
    return {
      uid: event.uid,
      summary: event.summary,
      description: event.description,
      start: event.startDate.toJSDate().toISOString(),
      end: event.endDate.toJSDate().toISOString(),
      alarms: component
        .getAllSubcomponents('valarm')
        .map((alarm) => String(alarm.getFirstPropertyValue('trigger'))),
    }
  })
}

describe('the run-up as a calendar', () => {
  it('has the show with its times and alarms, as a general reader takes it', () => {
    const events = read(demoShow)
    expect(events.at(-1)).toMatchObject({
      uid: 'show-abc@green-mantle',
      summary: 'Night Bloom at Fernhollow',
      start: '2026-12-12T21:00:00.000Z',
      end: '2026-12-12T23:00:00.000Z',
      alarms: ['-P1D', '-PT1H', '-PT15M'],
    })
    expect(events.map(({ uid }) => uid.split('-')[0])).toEqual([
      'measure',
      'words',
      'keys',
      'check',
      'show',
    ])
    expect(events.every(({ alarms }) => alarms.length > 0)).toBe(true)
  })

  it('names the destinations that want a fresh key, and only those', () => {
    const keys = read(demoShow).find(({ uid }) => uid.startsWith('keys'))
    expect(keys?.description).toBe('- Flickerbrook: new for this session')
    expect(keys?.start).toBe('2026-12-12T19:00:00.000Z')
    const without = structuredClone(demoShow)
    without.destinations[1]!.on = false
    expect(read(without).some(({ uid }) => uid.startsWith('keys'))).toBe(false)
  })

  it('keeps awkward words as they are, and lines as short as RFC 5545 wants', () => {
    const awkward = structuredClone(demoShow)
    awkward.title = 'Bud; "open", now\\n🌸 '.repeat(8).trim()
    expect(read(awkward).at(-1)?.summary).toBe(awkward.title)
    const text = writeCalendar(awkward, 'abc', writtenAt)
    const bytes = text.split('\r\n').map((line) => new TextEncoder().encode(line).length)
    expect(Math.max(...bytes)).toBeLessThanOrEqual(75)
  })

  it('has what is announced for another time', () => {
    const early = structuredClone(demoShow)
    early.destinations[0]!.words.scheduledAt = '2026-12-12T20:30'
    expect(runUpDates(early).find(({ key }) => key === 'announced-longmeadow')?.start).toEqual(
      new Date('2026-12-12T20:30:00Z'),
    )
  })
})
