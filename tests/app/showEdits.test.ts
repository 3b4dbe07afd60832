import { lineOf, type Show, showSchema } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { fetchShow, saveShow } from '~/api/shows'
import { useDressingEditing } from '~/components/canvases/dressing/dressingEditing'
import { useDestinationEditing } from '~/components/destinations/destinationEditing'
import { useComputerEditing } from '~/components/fit/computerEditing'
import { useFitEditing } from '~/components/fit/fitEditing'
import { useKeptPlans } from '~/components/fit/keptPlans'
import { useLineEditing } from '~/components/line/lineEditing'
import { useRehearsalEditing } from '~/components/rehearse/rehearsalEditing'
import { useShowEditing } from '~/composables/showEditing'
import { useShowStore } from '~/stores/show'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
  saveShow: vi.fn(),
}))
vi.mock('~/workers/workers', () => ({ readingWorker: () => ({ isShow: () => true }) }))

const [firstPlace] = demoShow.destinations
const [device] = demoShow.computer.devices
const sample = { ...lineOf(demoShow).samples[0]!, id: 'added' }

/** Every way in which a composable edits the show, and what of it then differs. */
const edits: Record<string, { make: () => void; changed: (keyof Show)[] }> = {
  'a device': {
    make: () => useComputerEditing().changeDevice(device!, { plannedSharePercent: 41 }),
    changed: ['computer'],
  },
  'a device that is gone': {
    make: () => useComputerEditing().removeDevice(device!),
    changed: ['destinations', 'recordings', 'computer'],
  },
  'a device more': { make: () => useComputerEditing().addDevice(), changed: ['computer'] },
  'measured speeds': {
    make: () => useComputerEditing().takeMeasuredSpeeds(1.5),
    changed: ['computer'],
  },
  'the dressing': {
    make: () => useDressingEditing().change('Set the name', (each) => (each.name = 'Seven')),
    changed: ['dressing'],
  },
  'a connection': {
    make: () => useDestinationEditing().setConnection(firstPlace!, 'hand-off'),
    changed: ['destinations'],
  },
  'how it is sent': {
    make: () => useDestinationEditing().setSending(firstPlace!, { whenBehind: 'hold' }),
    changed: ['destinations'],
  },
  'what is wanted of the plan': {
    make: () => useFitEditing().setPlan(firstPlace!.id, firstPlace!.name, { mustKeep: true }),
    changed: ['destinations'],
  },
  'a plan kept': { make: () => useKeptPlans().keep(), changed: ['keptPlans'] },
  measurements: {
    make: () => useLineEditing().addSamples('Add', [sample]),
    changed: ['lines'],
  },
  'a measurement': {
    make: () =>
      useLineEditing().changeSample(lineOf(demoShow).samples[0]!.id, { uploadKbps: 1234 }),
    changed: ['lines'],
  },
  'what is clean': {
    make: () => useRehearsalEditing().setClean('lostPercent', 3),
    changed: ['rehearsal'],
  },
  'the kind of picture': {
    make: () => useShowEditing().setPictureKind('action'),
    changed: ['pictureKind'],
  },
  'the frame rate': { make: () => useShowEditing().setFrameRate(30), changed: ['canvasPair'] },
  'what is said': {
    make: () => useShowEditing().setWords('Set the category', { category: 'Gardening' }),
    changed: ['words'],
  },
}

beforeEach(async () => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  vi.mocked(fetchShow).mockReset().mockResolvedValue({ show: demoShow, revision: 1 })
  vi.mocked(saveShow).mockReset().mockResolvedValue(2)
  await useShowStore().open('show')
})
afterEach(() => {
  useShowStore().close()
  vi.useRealTimers()
})

describe('an edit of', () => {
  it.each(Object.entries(edits))('%s changes that alone, and is undone in one step', (_, edit) => {
    const store = useShowStore()
    const before = store.show
    edit.make()
    store.endMerge()
    const differing = (Object.keys(before) as (keyof Show)[]).filter(
      (key) => JSON.stringify(store.show[key]) !== JSON.stringify(before[key]),
    )
    expect(edit.changed).toEqual(expect.arrayContaining(differing))
    expect(differing.length).toBeGreaterThan(0)
    expect(showSchema.safeParse(store.show).error).toBeUndefined()
    store.undo()
    expect(store.show).toEqual(before)
    expect(store.canUndo).toBe(false)
  })
})
