import type { TrialResult } from '@green-mantle/core/trial'
import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import LongerWaits from '~/components/trial/LongerWaits.vue'
import { useShowStore } from '~/stores/show'
import { openPlannedDemo } from './openedDemo'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
  saveShow: vi.fn(),
}))

beforeEach(openPlannedDemo)

afterEach(() => useShowStore().close())

it('lets the sends that dropped frames wait longer, in one edit', async () => {
  const store = useShowStore()
  const dropping = store.show.destinations.filter(
    ({ sending, protocol }) => sending.whenBehind === 'drop' && protocol !== 'srt',
  )
  expect(dropping.length).toBeGreaterThan(1)
  const waits = () =>
    store.show.destinations
      .filter(({ id }) => dropping.some((destination) => destination.id === id))
      .map(({ sending }) => sending.mostWaitSeconds)
  const before = waits()
  const result = {
    seconds: 30,
    sends: dropping.map(({ id }) => ({ key: `${id} any main`, droppedSeconds: 2.2 })),
  } as unknown as TrialResult
  const page = mount(LongerWaits, { props: { result } })
  expect(page.text()).toContain(`the 2.2 s that ${dropping[0]!.name} lost`)
  await page.get('button').trigger('click')
  waits().forEach((wait, index) => expect(wait).toBeGreaterThanOrEqual(before[index]! + 2.2))
  store.undo()
  expect(waits()).toEqual(before)
  expect(
    mount(LongerWaits, { props: { result: { ...result, sends: [] } } })
      .find('button')
      .exists(),
  ).toBe(false)
})
