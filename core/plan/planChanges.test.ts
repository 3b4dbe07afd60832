import { describe, expect, it } from 'vitest'
import { changeInWords, liftsInWords, planChanges, takenIn } from './planChanges'
import type { PlanRow } from './planSummary'

const row = (
  name: string,
  score: number | null,
  words = `${score} points of picture`,
): PlanRow => ({
  id: name.toLowerCase(),
  name,
  words: score === null ? 'left out' : words,
  score,
})
const before = [row('One', 80), row('Two', null), row('Three', 60), row('Four', 70)]
const after = [row('One', 84.6), row('Two', 55), row('Three', null), row('Five', 90)]

describe('what two plans give differently', () => {
  const changes = planChanges(before, after)

  it('names everybody that gets something else, and nobody else', () => {
    expect(changes.map(({ name }) => name)).toEqual(['One', 'Two', 'Three', 'Four', 'Five'])
    expect(planChanges(before, before)).toEqual([])
    expect(planChanges([row('One', 80, 'a')], [row('One', 80, 'b')])).toHaveLength(1)
  })

  it('says it in words', () => {
    expect(changes.map(changeInWords)).toEqual([
      'One 80 → 85: 84.6 points of picture',
      'Two at 55: 55 points of picture',
      'Three left out',
      'Four no longer in the show',
      'Five at 90: 90 points of picture',
    ])
  })

  it('tells who is lifted, the most first, and who comes in', () => {
    expect(takenIn(changes)).toEqual(['Two'])
    const lifted = planChanges(
      [row('One', 80), row('Two', 70), row('Three', 60)],
      [row('One', 82), row('Two', 79), row('Three', 60.2)],
    )
    expect(liftsInWords(lifted)).toEqual(['Two from 70 to 79', 'One from 80 to 82'])
  })
})
