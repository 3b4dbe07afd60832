import { demoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { StandInPlatform } from './platform'

const destination = (id: string) => demoShow.destinations.find((each) => each.id === id)!

/** A stand-in on a clock that is moved by hand. */
function standIn(id: string) {
  let now = Date.parse('2026-12-12T21:00:00Z')
  return {
    platform: new StandInPlatform(destination(id), () => now),
    pass: (seconds: number) => {
      now += seconds * 1000
    },
  }
}

describe('a stand-in that is started on its page', () => {
  it('shows the picture after its lag, and is live only when start was pressed', () => {
    const { platform, pass } = standIn('flickerbrook')
    platform.signalCame()
    expect(platform.state()).toMatchObject({ picture: 'on its way', isLive: false })
    expect(platform.pressStart(false)).toBe(false)
    pass(6)
    expect(platform.state()).toMatchObject({ picture: 'there', isLive: false })
    expect(platform.pressStart(true)).toBe(true)
    expect(platform.state()).toMatchObject({ isLive: true, isPractice: true })
    pass(30)
    // A practice audience writes nothing.
    expect(platform.chat()).toEqual([])
    platform.openToAll()
    expect(platform.chat()).toHaveLength(5)
  })

  it('freezes where it is stopped before it is ended, until it is ended there', () => {
    const { platform, pass } = standIn('flickerbrook')
    platform.signalCame()
    pass(6)
    platform.pressStart(false)
    platform.signalWent()
    pass(6)
    expect(platform.state()).toMatchObject({ picture: 'frozen', isLive: true })
    expect(platform.pressEnd()).toBe(true)
    expect(platform.state()).toMatchObject({ picture: 'none', isLive: false, isOver: true })
  })

  it('takes the key of its session alone, and a new one for the next', () => {
    const { platform } = standIn('flickerbrook')
    expect(platform.refusal('anything')).toMatch(/no session/)
    const first = platform.giveKey()!
    expect(platform.refusal(first)).toBeNull()
    platform.giveKey()
    expect(platform.refusal(first)).toMatch(/another session/)
  })

  it('refuses once where it is asked to', () => {
    const { platform } = standIn('longmeadow')
    platform.refusesNext = true
    expect(platform.refusal('k')).toMatch(/too busy/)
    expect(platform.refusal('k')).toBeNull()
  })
})

describe('a stand-in that is live by itself', () => {
  it('is live when the picture is there, ends when the signal stops, and begins again', () => {
    const { platform, pass } = standIn('longmeadow')
    expect(platform.giveKey()).toBeNull()
    platform.signalCame()
    pass(8)
    expect(platform.state()).toMatchObject({ picture: 'there', isLive: true })
    expect(platform.pressStart(false)).toBe(false)
    platform.signalWent()
    pass(3)
    // Within its lag viewers see nothing of a connection that comes back.
    expect(platform.state().isLive).toBe(true)
    platform.signalCame()
    pass(8)
    expect(platform.state().isLive).toBe(true)
    platform.signalWent()
    pass(8)
    expect(platform.state()).toMatchObject({ isLive: false, isOver: true })
  })
})

describe('whatever is done to a stand-in', () => {
  const actions = ['came', 'went', 'start', 'practise', 'open', 'end', 'key'] as const
  it('it is frozen only while it is live, never live without a picture that arrived, and its chat is in order', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('flickerbrook', 'longmeadow'),
        fc.array(
          fc.record({
            action: fc.constantFrom(...actions),
            seconds: fc.integer({ min: 0, max: 20 }),
          }),
          { maxLength: 30 },
        ),
        (id, steps) => {
          const { platform, pass } = standIn(id)
          let hadSignal = false
          for (const { action, seconds } of steps) {
            if (action === 'came') {
              platform.signalCame()
              hadSignal = true
            } else if (action === 'went') platform.signalWent()
            else if (action === 'start') platform.pressStart(false)
            else if (action === 'practise') platform.pressStart(true)
            else if (action === 'open') platform.openToAll()
            else if (action === 'end') platform.pressEnd()
            else platform.giveKey()
            pass(seconds)
            const { picture, isLive, isPractice, isOver } = platform.state()
            if (picture === 'frozen') expect(isLive).toBe(true)
            if (isLive) expect([hadSignal, isOver]).toEqual([true, false])
            if (isPractice) expect(isLive).toBe(true)
            const times = platform.chat().map(({ at }) => at)
            expect(times).toEqual([...times].sort())
            expect(times.length).toBeLessThanOrEqual(50)
          }
        },
      ),
    )
  })
})
