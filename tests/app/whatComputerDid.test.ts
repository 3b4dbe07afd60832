import type { TrialProcess, TrialResult } from '@green-mantle/core/trial'
import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import WhatComputerDid from '~/components/trial/WhatComputerDid.vue'
import { useShowStore } from '~/stores/show'
import { openPlannedDemo } from './openedDemo'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
  saveShow: vi.fn(),
}))

beforeEach(openPlannedDemo)

afterEach(() => useShowStore().close())

const processed = (changes: Partial<TrialProcess>): TrialProcess => ({
  ...{ canvas: 'landscape', encodes: ['1080p60'], droppedFrames: 0, problem: '' },
  ...{ speed: 1, processorShare: 0.6, pictureShare: 0.3, plannedShare: 0.3 },
  ...changes,
})
const shown = (process: TrialProcess, { isOfThisPlan = true } = {}) =>
  mount(WhatComputerDid, {
    props: {
      result: { processes: [process], sends: [], recordings: [] } as unknown as TrialResult,
      isOfThisPlan,
    },
  })

it('offers to leave what decoding and scaling take where the computer did not keep up, and no more', async () => {
  const store = useShowStore()
  const processors = () => store.show.computer.devices.filter(({ kind }) => kind === 'processor')
  const page = shown(processed({ speed: 0.6, processorShare: 0.36 }))
  expect(page.text()).toContain('30 % of it decoding and scaling')
  await page.get('button').trigger('click')
  expect(processors().map(({ plannedSharePercent }) => plannedSharePercent)).toEqual([50])
  expect(page.findAll('button')).toHaveLength(0)
  store.undo()
  expect(processors().map(({ plannedSharePercent }) => plannedSharePercent)).toEqual([80])
})

it('offers nothing where it kept up as planned, and the speeds alone where the encodes took more', async () => {
  expect(shown(processed({})).findAll('button')).toHaveLength(0)
  const more = shown(processed({ processorShare: 0.75 }))
  expect(more.findAll('button').map((button) => button.text())).toEqual([
    'Take the measured speeds',
  ])
  expect(more.text()).toContain('take 150 % of what the plan has them take')
  // Of an older trial it is not known what of it was encoding.
  expect(shown(processed({ processorShare: 0.75, pictureShare: null })).findAll('button')).toEqual(
    [],
  )
})

it('offers the efforts with which it would keep up, which one undo takes back, of this plan alone', async () => {
  const store = useShowStore()
  const { id: deviceId } = store.show.computer.devices.find(({ kind }) => kind === 'processor')!
  const first = store.show.destinations.find(({ on, canvas }) => on && canvas === 'landscape')!
  store.edit('Encode in software', (draft) => {
    for (const destination of draft.destinations) destination.on = destination.id === first.id
    draft.recordings = []
    for (const rendition of draft.destinations.flatMap(({ renditions }) => renditions))
      Object.assign(rendition, {
        ...{ codec: 'h264', effort: 'finest', pins: [] },
        encoder: { ...rendition.encoder, deviceId },
      })
  })
  const renditions = () => store.show.destinations.find(({ id }) => id === first.id)!.renditions
  // Half of it in time, and the other half in its way: a third less would do.
  const tooMuch = processed({ speed: 0.5, processorShare: 0.5, pictureShare: 0.05 })
  expect(shown(tooMuch, { isOfThisPlan: false }).text()).not.toContain('With less effort')
  const page = shown(tooMuch)
  expect(page.text()).toMatch(/With less effort it keeps up: \d+ % of the processor/)
  await page.get('button').trigger('click')
  for (const { effort, pins } of renditions()) {
    expect(effort).not.toBe('finest')
    expect(pins).toEqual(['effort'])
  }
  store.undo()
  for (const { effort, pins } of renditions()) {
    expect(effort).toBe('finest')
    expect(pins).toEqual([])
  }
})
