import { describe, expect, it } from 'vitest'
import { incident, night, run, send, steady } from './nightsForTests'
import { laneStates, newTrace } from './trace'
import { inSteps } from './ways'
import { isDeep } from '../../tests/tier'

describe('a night too long to keep second by second', () => {
  // A week to fifty destinations, each with a ladder of three.
  const many = Array.from({ length: 150 }, (_, index) =>
    send({ key: `${index}`, name: `${index}`, destinationId: `${index}`, fullKbps: 100 }),
  )
  const week = night({ seconds: 604_800, line: steady(20_000), sends: many })

  it('is kept in places of several seconds, within bounds', () => {
    const trace = newTrace(week)
    expect(trace.secondsAPlace).toBeGreaterThan(1)
    const values = trace.sentKbps.reduce((sum, { length }) => sum + length, 0)
    expect(values).toBeLessThanOrEqual(4_000_000 + many.length)
  })

  it('means the same as second by second: rates are means, states the gravest, the line the least', () => {
    const plan = night({ incidents: [incident('outage', 30, 20, {})] })
    const fine = newTrace(plan)
    run(plan, inSteps, fine)
    expect(Math.max(...fine.states[0]!)).toBe(laneStates.indexOf('gone'))
    expect(fine.capacityKbps[35]).toBe(0)
    // More than may be kept of it: so many values are too many for single seconds.
    const sendCount = isDeep ? 1000 : 700
    const longer = night({
      seconds: 6000,
      line: steady(5_000_000),
      sends: Array.from({ length: sendCount }, (_, index) =>
        send({ key: `${index}`, destinationId: `${index}`, framesPerSecond: 24 }),
      ),
      incidents: [incident('outage', 3000, 4, {})],
    })
    const trace = newTrace(longer)
    expect(trace.secondsAPlace).toBe(2)
    run(longer, inSteps, trace)
    expect(trace.sentKbps[0]![100]).toBeCloseTo(4000, 0)
    expect(trace.capacityKbps[1500]).toBe(0)
    expect(trace.capacityKbps[100]).toBeCloseTo(5_000_000, -2)
  })

  it('has a log that says how much it left out', () => {
    const never = night({ seconds: 3600, line: steady(3000), sends: many.slice(0, 60) })
    const { events, eventsLeftOut } = run(never, inSteps)
    expect(events).toHaveLength(2000)
    expect(eventsLeftOut).toBeGreaterThan(0)
  })
})
