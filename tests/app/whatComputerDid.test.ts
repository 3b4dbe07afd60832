import { plannedDemoShow } from '@green-mantle/demo'
import type { TrialProcess, TrialResult } from '@green-mantle/core/trial'
import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { fetchShow, saveShow } from '~/api/shows'
import WhatComputerDid from '~/components/trial/WhatComputerDid.vue'
import { useShowStore } from '~/stores/show'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
  saveShow: vi.fn(),
}))

beforeEach(async () => {
  localStorage.clear()
  setActivePinia(createPinia())
  vi.mocked(fetchShow).mockResolvedValue({ show: structuredClone(plannedDemoShow), revision: 1 })
  vi.mocked(saveShow).mockResolvedValue(2)
  await useShowStore().open('show')
})

afterEach(() => useShowStore().close())

const processed = (changes: Partial<TrialProcess>): TrialProcess => ({
  ...{ canvas: 'landscape', encodes: ['1080p60'], droppedFrames: 0, problem: '' },
  ...{ speed: 1, processorShare: 0.6, pictureShare: 0.3, plannedShare: 0.3 },
  ...changes,
})
const shown = (...processes: TrialProcess[]) =>
  mount(WhatComputerDid, {
    props: { result: { processes, sends: [], recordings: [] } as unknown as TrialResult },
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
