import { type EncodingRun, throughputsFrom } from '@green-mantle/core/measured'
import { type Effort, efforts } from '@green-mantle/core/show'
import { describe, expect, it, vi } from 'vitest'
import { doubtInWords, settleDoubts } from './settleDoubts'

const sizes = [
  { width: 1280, height: 720 },
  { width: 426, height: 240 },
]
const run = (effort: Effort, framesPerSecond: number): EncodingRun[] =>
  sizes.map((size, place) => ({
    ...{ codec: 'h264', effort, ...size, atOnce: 1 },
    framesPerSecond: framesPerSecond * (place === 0 ? 1 : 7),
  }))
const right: Record<Effort, number> = {
  fastest: 400,
  brisk: 240,
  balanced: 150,
  fine: 90,
  finest: 50,
}
const throughputsOf = (runs: readonly EncodingRun[]) => throughputsFrom(runs, [])
const all = efforts.flatMap((effort) => run(effort, right[effort]))
// As measured on a busy computer: fine four times as fast as fastest.
const busy = all.map((each) =>
  each.effort === 'fine' ? { ...each, framesPerSecond: each.framesPerSecond * 18 } : each,
)

describe('speeds that cannot be', () => {
  it('are measured again, and then are as they are', async () => {
    const again = vi.fn((doubtful: readonly { effort: Effort }[]) =>
      Promise.resolve(doubtful.flatMap(({ effort }) => run(effort, right[effort]))),
    )
    const settled = await settleDoubts(busy, throughputsOf, again)
    expect(again).toHaveBeenCalledOnce()
    expect(again.mock.calls[0]![0].map(({ effort }) => effort)).toContain('fine')
    expect(settled.doubtful).toEqual([])
    expect(throughputsOf(settled.runs)).toEqual(throughputsOf(all))
  })

  it('are given up where they stay so, and nothing is measured again where all is well', async () => {
    const again = vi.fn((doubtful: readonly { effort: Effort }[]) =>
      Promise.resolve(busy.filter(({ effort }) => doubtful.some((each) => each.effort === effort))),
    )
    expect((await settleDoubts(busy, throughputsOf, again)).doubtful.length).toBeGreaterThan(1)
    expect(again).toHaveBeenCalledTimes(2)
    again.mockClear()
    expect((await settleDoubts(all, throughputsOf, again)).doubtful).toEqual([])
    expect(again).not.toHaveBeenCalled()
  })

  it('stay as they are known where measuring is stopped', async () => {
    const settled = await settleDoubts(busy, throughputsOf, () => Promise.resolve([]))
    expect(settled.runs).toEqual(busy)
  })

  it('are said by name', () => {
    const doubtful = [
      { codec: 'h264', effort: 'fastest' },
      { codec: 'h264', effort: 'fine' },
    ] as const
    expect(doubtInWords(doubtful)).toMatch(
      /^The speeds of H\.264 at fastest and fine cannot all be right/,
    )
    expect(doubtInWords([])).toBeNull()
  })
})
