import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newDestination, type Show } from '../show'
import { dueTasks, expectedStarts, startSlipsSeconds } from './dueTasks'
import { nightOrder, orderChanges, seenOrder } from './nightOrder'
import { runsOf } from '../../tests/tier'

const withRunSheet = (changes: Partial<Show['runSheet']>, show: Show = demoShow): Show => ({
  ...show,
  runSheet: { ...show.runSheet, ...changes },
})
const timesOf = (show: Show): Record<string, number> =>
  Object.fromEntries(nightOrder(show).tasks.map(({ id, atSeconds }) => [id, atSeconds]))

/** One destination that is started on its page, on a show of an hour. */
function single(): Show {
  const made = newDestination(() => 'one', 'Pressed', 'vertical')
  return {
    ...demoShow,
    durationMinutes: 60,
    recordings: [],
    runSheet: { people: [], marginMinutes: 5, changes: [], ownTasks: [], seen: null },
    destinations: [
      {
        ...made,
        lagSeconds: 6,
        rules: { ...made.rules, start: 'pressed on its page', end: 'pressed on its page' },
      },
    ],
  }
}

describe('the order of a night', () => {
  /*
   * Worked by hand, backwards from the start: a margin of 300 s; seen as a viewer 45 s, so from −345;
   * 6 s of lag after pressing start, which takes 30 s, so from −381; muting takes 15 s, from −396;
   * seeing it arrive 45 s, from −441; 6 s of lag after 30 s of starting to send, from −477; the scene
   * takes 15 s, from −492.
   */
  it('of one destination that is started on its page is as worked by hand', () => {
    expect(timesOf(single())).toMatchObject({
      'opening-scene': -492,
      'send-one': -477,
      'arrived-one': -441,
      'mute-one': -396,
      'start-one': -381,
      'live-one': -345,
      'on-air': 0,
      'last-scene': 3600,
      'end-one': 3630,
      'stop-one': 3660,
    })
    const { chain, chainSeconds } = nightOrder(single())
    expect(chain.map(({ id }) => id)).toEqual([
      'opening-scene',
      'send-one',
      'arrived-one',
      'mute-one',
      'start-one',
      'live-one',
    ])
    expect(chainSeconds).toBe(192)
  })

  /*
   * The demo by hand: one person does all of going up, three destinations and a recording. The scene
   * 15, three sends of 30, the recording 15, three looks of 45, three mutes of 15, one press of 30,
   * three looks of 45, and no lag is longer than what is done meanwhile: 465 s, and 300 of margin.
   */
  it('of the demo takes 465 s of one person before its margin', () => {
    const { chainSeconds, tasks } = nightOrder(demoShow)
    expect(chainSeconds).toBe(15 + 3 * 30 + 15 + 3 * 45 + 3 * 15 + 30 + 3 * 45)
    expect(tasks.find(({ id }) => id === 'opening-scene')?.atSeconds).toBe(-765)
  })

  it('gets shorter when it is shared among people, each of whom does one thing at a time', () => {
    const shared = withRunSheet({
      changes: nightOrder(demoShow)
        .tasks.filter(({ destinationId, phase }) => phase === 'going up' && destinationId)
        .map(({ id, destinationId }) => ({
          id,
          title: null,
          atSeconds: null,
          personId: destinationId === 'flickerbrook' ? 'oke' : 'ines',
          leftOut: false,
        })),
    })
    expect(nightOrder(shared).chainSeconds).toBeLessThan(nightOrder(demoShow).chainSeconds)
    const { tasks } = nightOrder(shared)
    for (const person of ['ines', 'oke']) {
      const own = tasks.filter(({ personId, phase }) => personId === person && phase === 'going up')
      own.forEach((task, index) => {
        const next = own[index + 1]
        if (next) expect(task.atSeconds + task.durationSeconds).toBeLessThanOrEqual(next.atSeconds)
      })
    }
  })

  it('asks for no key where none is pasted, presses no start where it is live by itself, and lets a program start its own', () => {
    const order = nightOrder({
      ...demoShow,
      destinations: demoShow.destinations.map((each) => ({ ...each, on: true })),
    })
    const ids = new Set(order.tasks.map(({ id }) => id))
    expect(ids.has('key-commonhall')).toBe(false)
    expect(ids.has('start-longmeadow')).toBe(false)
    expect(ids.has('start-flickerbrook')).toBe(true)
    expect(order.tasks.find(({ id }) => id === 'send-kilnside')?.title).toBe(
      'Start Kilnside in its program',
    )
  })

  it('starts no send to what a relay feeds, and sees it arrive after the relay’s own', () => {
    const relay = demoShow.destinations.find(({ id }) => id === 'relayhouse')!
    const fed = demoShow.destinations.find(({ id }) => id === 'longmeadow')!
    const { tasks } = nightOrder({
      ...demoShow,
      destinations: [
        { ...relay, on: true },
        { ...fed, relayId: relay.id },
      ],
    })
    const byId = new Map(tasks.map((task) => [task.id, task]))
    expect(byId.has('send-longmeadow')).toBe(false)
    expect(byId.get('arrived-longmeadow')!.atSeconds).toBeGreaterThan(
      byId.get('send-relayhouse')!.atSeconds,
    )
  })

  it('says nothing of a destination that is off, and is there for an empty show', () => {
    const { tasks } = nightOrder(demoShow)
    expect(tasks.some(({ destinationId }) => destinationId === 'rookery')).toBe(false)
    const empty = nightOrder({ ...demoShow, destinations: [], sources: [], sounds: [], scenes: [] })
    expect(empty.tasks.map(({ id }) => id)).toContain('on-air')
  })

  it('is worked out in no time that is noticed for fifty destinations', () => {
    const many = {
      ...demoShow,
      destinations: Array.from({ length: 50 }, (_, index) => ({
        ...demoShow.destinations[1]!,
        id: `d${index}`,
        on: true,
      })),
    }
    const { tasks, chainSeconds } = nightOrder(many)
    expect(tasks.length).toBeGreaterThan(50 * 9)
    // One person for fifty pages.
    expect(chainSeconds).toBeGreaterThan(50 * 150)
  })
})

describe('what people do to the order', () => {
  const change = (id: string, changes: Partial<Show['runSheet']['changes'][number]>) => ({
    ...{ id, title: null, atSeconds: null, personId: null, leftOut: false },
    ...changes,
  })

  it('keeps a time that was set, says what then comes too late, and moves what has to be done before', () => {
    const late = nightOrder(
      withRunSheet({ changes: [change('start-one', { atSeconds: -60 })] }, single()),
    )
    const start = late.tasks.find(({ id }) => id === 'start-one')!
    expect(start).toMatchObject({ atSeconds: -60, isMoved: true })
    expect(start.tooLateFor).toEqual(['See Pressed as a viewer does, on a phone'])
    const early = timesOf(
      withRunSheet({ changes: [change('live-one', { atSeconds: -900 })] }, single()),
    )
    expect(early['start-one']).toBe(-900 - 6 - 30)
  })

  it('lets what waited for a task that is left out wait for what that waited for', () => {
    const order = nightOrder(
      withRunSheet({ changes: [change('mute-one', { leftOut: true })] }, single()),
    )
    expect(order.leftOut.map(({ id }) => id)).toEqual(['mute-one'])
    expect(order.tasks.find(({ id }) => id === 'start-one')?.waitsFor).toContainEqual({
      id: 'arrived-one',
      lagSeconds: 0,
    })
    expect(order.tasks.find(({ id }) => id === 'opening-scene')?.atSeconds).toBe(-492 + 15)
  })

  it('names nobody who is not there', () => {
    const gone = withRunSheet({ people: [], changes: [change('line', { personId: 'oke' })] })
    expect(nightOrder(gone).tasks.find(({ id }) => id === 'line')?.personId).toBeNull()
  })

  const edits = fc.array(
    fc.record({
      index: fc.nat({ max: 200 }),
      title: fc.option(fc.string({ minLength: 1, maxLength: 20 })),
      atSeconds: fc.option(fc.integer({ min: -9000, max: 9000 })),
      personId: fc.option(fc.constantFrom('ines', 'oke')),
      leftOut: fc.boolean(),
    }),
    { maxLength: 12 },
  )
  /** Shows that differ in what is on, in their length and in who asks for a key. */
  const shows = fc
    .record({
      on: fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }),
      durationMinutes: fc.integer({ min: 1, max: 600 }),
    })
    .map(({ on, durationMinutes }) => ({
      ...demoShow,
      durationMinutes,
      destinations: demoShow.destinations.map((each, index) => ({
        ...each,
        on: on[index] ?? true,
      })),
    }))

  it('is kept when the order is made again from a show that changed', () => {
    fc.assert(
      fc.property(shows, shows, edits, (before, after, drafts) => {
        const { tasks } = nightOrder(before)
        const changes = [
          ...new Map(
            drafts.map(({ index, ...rest }) => {
              const { id } = tasks[index % tasks.length]!
              return [id, { id, ...rest }] as const
            }),
          ).values(),
        ].filter(({ id }) => !id.startsWith('own-'))
        const made = nightOrder(withRunSheet({ changes }, after))
        const plain = new Set(nightOrder(after).tasks.map(({ id }) => id))
        for (const { id, title, atSeconds, personId, leftOut } of changes) {
          const task = made.tasks.find((each) => each.id === id)
          if (!plain.has(id)) expect(task).toBeUndefined()
          else if (leftOut) expect(made.leftOut.some((each) => each.id === id)).toBe(true)
          else {
            if (title !== null) expect(task?.title).toBe(title)
            if (atSeconds !== null) expect(task?.atSeconds).toBe(atSeconds)
            if (personId !== null) expect(task?.personId).toBe(personId)
          }
        }
        // Own tasks stay whatever the show becomes.
        expect(made.tasks.some(({ id }) => id === 'own-half-time')).toBe(true)
        // Every task stands once, and where nobody set a time none stands before what it waits for.
        expect(new Set(made.tasks.map(({ id }) => id)).size).toBe(made.tasks.length)
        for (const task of made.tasks)
          if (task.tooLateFor.length > 0)
            expect(changes.some(({ atSeconds }) => atSeconds !== null)).toBe(true)
      }),
      { numRuns: runsOf(60) },
    )
  })

  it('is told as new, gone and moved since it was looked through', () => {
    expect(orderChanges(demoShow, nightOrder(demoShow))).toBeNull()
    const looked = withRunSheet({ seen: seenOrder(nightOrder(demoShow)) })
    const same = orderChanges(looked, nightOrder(looked))
    expect(same).toEqual({ added: [], gone: [], moved: [] })
    const changed: Show = {
      ...looked,
      durationMinutes: looked.durationMinutes + 10,
      destinations: looked.destinations.map((each) =>
        each.id === 'flickerbrook'
          ? { ...each, on: false }
          : { ...each, on: each.on || each.id === 'rookery' },
      ),
    }
    const told = orderChanges(changed, nightOrder(changed))!
    expect(told.added).toContain('Start sending to Rookery')
    expect(told.gone).toContain('Press start on Flickerbrook’s page')
    expect(told.moved).toContainEqual({ title: 'A last scene', bySeconds: 600 })
  })
})

describe('what is due', () => {
  const order = nightOrder(single())
  const doneUpTo = (id: string) => {
    const ids = order.tasks.map((task) => task.id)
    const before = new Set(ids.slice(0, ids.indexOf(id)))
    return (task: { id: string }) => before.has(task.id)
  }

  it('is what its time has come for and nothing has to come before', () => {
    const due = dueTasks(order, doneUpTo('start-one'), -380)
    expect(due.now.map(({ id }) => id)).toEqual(['start-one'])
    expect(due.next?.id).toBe('live-one')
  })

  it('brings sends on first, whatever else is late', () => {
    const allBut = (id: string) => (task: { id: string; phase: string }) =>
      task.id !== id &&
      task.id !== 'live-one' &&
      !['on air', 'coming down', 'after'].includes(task.phase)
    // The start was never pressed, and the show is on.
    expect(dueTasks(order, allBut('start-one'), 60).now[0]?.id).toBe('start-one')
  })

  it('begins with the latest phase that has begun, and says what was left undone', () => {
    const due = dueTasks(order, () => false, -3590)
    expect(due.now[0]?.id).toBe('line')
    expect(due.late.some(({ phase }) => phase === 'days before')).toBe(true)
  })

  it('is nothing once everything is done', () => {
    expect(dueTasks(order, () => true, 9000)).toEqual({ now: [], next: null, late: [] })
  })
})

describe('what slips', () => {
  const startsAt = new Date('2026-12-12T21:00:00Z')
  const order = nightOrder(single())

  it('moves what waits, and the start by as much as the margin does not take up', () => {
    const known = new Set(
      order.tasks
        .filter(({ phase }) => phase === 'before' || phase === 'days before')
        .map(({ id }) => id),
    )
    const inTime = expectedStarts(order, { ticks: new Map() }, known, {
      nowSeconds: -600,
      startsAt,
    })
    expect(inTime.get('send-one')).toBe(-477)
    expect(startSlipsSeconds(inTime)).toBe(0)
    // 250 s later than planned everything waits; the margin of 300 s takes it up.
    const late = expectedStarts(order, { ticks: new Map() }, known, { nowSeconds: -242, startsAt })
    expect(late.get('live-one')).toBe(-345 + 250)
    expect(startSlipsSeconds(late)).toBe(0)
    const tooLate = expectedStarts(order, { ticks: new Map() }, known, {
      nowSeconds: -92,
      startsAt,
    })
    expect(startSlipsSeconds(tooLate)).toBe(100)
  })

  it('counts from when a task was really done', () => {
    const tick = { at: '2026-12-12T20:59:00Z', who: '', knowingly: false }
    const known = new Set(
      order.tasks
        .map(({ id }) => id)
        .filter((id) => id !== 'live-one' && id !== 'start-one' && id !== 'on-air'),
    )
    const expected = expectedStarts(order, { ticks: new Map([['start-one', tick]]) }, known, {
      nowSeconds: -58,
      startsAt,
    })
    expect(expected.get('live-one')).toBe(-60 + 6)
  })
})
