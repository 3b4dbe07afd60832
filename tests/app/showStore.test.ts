import { lineOf, showSchema } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiProblem } from '~/api/problem'
import { fetchShow, fetchShowIfNewer, saveShow } from '~/api/shows'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
  fetchShowIfNewer: vi.fn(),
  saveShow: vi.fn(),
}))

// There are no workers here; what they run is called straight away.
vi.mock('~/workers/workers', () => ({
  readingWorker: () => ({ isShow: (value: unknown) => showSchema.safeParse(value).success }),
}))

const unreachable = () => new ApiProblem(503, 'The database does not answer', 'Nothing was saved.')
const changedElsewhere = (show: unknown, revision: number) =>
  new ApiProblem(412, 'Changed', 'Nothing was overwritten.', { current: { show, revision } })

/** Lets timers and the promises behind them run. */
const pass = (milliseconds: number) => vi.advanceTimersByTimeAsync(milliseconds)

async function opened() {
  const store = useShowStore()
  await store.open('show')
  return store
}
function setHeadroom(
  store: ReturnType<typeof useShowStore>,
  percent: number,
  mergeKey?: string,
): void {
  store.edit(
    `Headroom ${percent}`,
    (draft) => {
      lineOf(draft).headroomPercent = percent
    },
    mergeKey === undefined ? {} : { mergeKey },
  )
}
const headroom = (store: ReturnType<typeof useShowStore>) => lineOf(store.show).headroomPercent

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  vi.mocked(fetchShow).mockReset().mockResolvedValue({ show: demoShow, revision: 1 })
  let revision = 1
  vi.mocked(saveShow)
    .mockReset()
    .mockImplementation(() => Promise.resolve((revision += 1)))
})
afterEach(() => {
  useShowStore().close()
  vi.useRealTimers()
})

describe('undo and redo', () => {
  it('a consequence is taken back and brought again with its edit', async () => {
    const store = await opened()
    setHeadroom(store, 50)
    store.followUp((show) => ({ ...show, title: 'Planned for 50' }))
    setHeadroom(store, 20, 'drag')
    store.followUp((show) => ({ ...show, title: 'Planned for 20' }))
    store.endMerge()
    expect([headroom(store), store.show.title]).toEqual([20, 'Planned for 20'])
    store.undo()
    expect([headroom(store), store.show.title]).toEqual([50, 'Planned for 50'])
    store.undo()
    expect([headroom(store), store.show.title]).toEqual([30, demoShow.title])
    store.redo()
    store.redo()
    expect([headroom(store), store.show.title]).toEqual([20, 'Planned for 20'])
  })

  it('back to what the server holds leaves nothing to save', async () => {
    const store = await opened()
    setHeadroom(store, 50)
    await pass(600)
    expect(store.saveState.name).toBe('saved')
    store.undo()
    expect(store.saveState.name).toBe('unsaved')
    store.redo()
    expect(store.saveState.name).toBe('saved')
    await pass(5000)
    expect(store.saveState.name).toBe('saved')
    expect(saveShow).toHaveBeenCalledTimes(1)
    expect(localStorage).toHaveLength(0)
  })

  it('lead through every edit, with its name', async () => {
    const store = await opened()
    setHeadroom(store, 20)
    setHeadroom(store, 40)
    expect([store.undoLabel, store.redoLabel]).toEqual(['Headroom 40', ''])
    store.undo()
    expect([headroom(store), store.redoLabel]).toEqual([20, 'Headroom 40'])
    store.undo()
    expect(store.show).toBe(demoShow)
    expect(store.canUndo).toBe(false)
    store.redo()
    store.redo()
    expect(headroom(store)).toBe(40)
  })

  it('take a run of edits with one key as one step, and end it at another edit', async () => {
    const store = await opened()
    for (const percent of [31, 32, 33]) setHeadroom(store, percent, 'slider')
    setHeadroom(store, 10)
    store.undo()
    expect(headroom(store)).toBe(33)
    store.undo()
    expect(headroom(store)).toBe(30)
  })

  it('end a run after a pause, and by hand', async () => {
    const store = await opened()
    setHeadroom(store, 31, 'slider')
    await pass(1000)
    setHeadroom(store, 32, 'slider')
    store.endMerge()
    setHeadroom(store, 33, 'slider')
    for (const percent of [32, 31, 30]) {
      store.undo()
      expect(headroom(store)).toBe(percent)
    }
  })

  it('do nothing for an edit that changes nothing', async () => {
    const store = await opened()
    setHeadroom(store, 30)
    expect(store.canUndo).toBe(false)
    await pass(5000)
    expect(saveShow).not.toHaveBeenCalled()
  })
})

describe('saving', () => {
  it('waits for a pause, then sends the whole show once, from its revision', async () => {
    const store = await opened()
    setHeadroom(store, 20)
    await pass(300)
    setHeadroom(store, 25)
    expect(saveShow).not.toHaveBeenCalled()
    await pass(600)
    expect(vi.mocked(saveShow).mock.calls).toEqual([['show', 1, store.show]])
    expect(store.saveState.name).toBe('saved')
    expect(localStorage).toHaveLength(0)
  })

  it('sends what was edited while a save was on its way, from the new revision', async () => {
    let acknowledge = (_revision: number) => {}
    vi.mocked(saveShow).mockReturnValueOnce(new Promise((resolve) => (acknowledge = resolve)))
    const store = await opened()
    setHeadroom(store, 20)
    await pass(600)
    setHeadroom(store, 25)
    await pass(600)
    expect(saveShow).toHaveBeenCalledTimes(1)
    expect(store.isUnsaved).toBe(true)
    acknowledge(7)
    await pass(600)
    expect(vi.mocked(saveShow).mock.calls[1]?.slice(1)).toEqual([7, store.show])
    expect(store.isUnsaved).toBe(false)
  })

  it('keeps the edit and tries again while the database is away', async () => {
    vi.mocked(saveShow).mockRejectedValueOnce(unreachable()).mockRejectedValueOnce(unreachable())
    const store = await opened()
    setHeadroom(store, 20)
    await pass(600)
    expect(store.saveState).toMatchObject({
      name: 'waiting',
      words: 'The database does not answer',
    })
    expect(localStorage).toHaveLength(1)
    await pass(2100)
    await pass(2100)
    expect(store.saveState.name).toBe('saved')
    expect(localStorage).toHaveLength(0)
  })

  it('says when the server will not take it, and keeps it', async () => {
    vi.mocked(saveShow).mockRejectedValueOnce(
      new ApiProblem(422, 'It breaks its schema', 'Nothing was saved.'),
    )
    const store = await opened()
    setHeadroom(store, 20)
    await pass(600)
    expect(store.saveState).toMatchObject({ name: 'refused' })
    expect(localStorage).toHaveLength(1)
  })

  it('sends a last edit when the show is closed', async () => {
    const store = await opened()
    setHeadroom(store, 20)
    store.close()
    await pass(0)
    expect(saveShow).toHaveBeenCalledTimes(1)
    expect(store.isOpen).toBe(false)
  })
})

describe('leaving a show', () => {
  it('lets what is still on the page go on looking at it, but not change it', async () => {
    const store = await opened()
    const selection = useSelectionStore()
    store.close()
    expect(selection.scene).toBe(demoShow.scenes[0])
    expect(store.verdict.budget.upload.basis).not.toBe('no samples')
    setHeadroom(store, 20)
    expect(headroom(store)).toBe(30)
    expect(store.isUnsaved).toBe(false)
  })

  it('loses nothing that was edited while a save was on its way', async () => {
    let acknowledge = (_revision: number) => {}
    vi.mocked(saveShow).mockReturnValueOnce(new Promise((resolve) => (acknowledge = resolve)))
    const store = await opened()
    setHeadroom(store, 20)
    await pass(600)
    setHeadroom(store, 25)
    const last = store.show
    store.close()
    expect(localStorage).toHaveLength(1)
    acknowledge(2)
    await store.untilSettled()
    expect(vi.mocked(saveShow).mock.calls.at(-1)).toEqual(['show', 2, last])
    expect(localStorage).toHaveLength(0)
  })

  it('and opening it again at once fetches it after its last edit is saved', async () => {
    const store = await opened()
    setHeadroom(store, 20)
    const order: string[] = []
    vi.mocked(saveShow).mockImplementationOnce(() => {
      order.push('save')
      return Promise.resolve(2)
    })
    vi.mocked(fetchShow).mockImplementationOnce(() => {
      order.push('fetch')
      return Promise.resolve({ show: demoShow, revision: 2 })
    })
    await store.open('show')
    expect(order).toEqual(['save', 'fetch'])
  })

  it('with an edit that could not be saved takes it up again when it is opened', async () => {
    vi.mocked(saveShow).mockRejectedValue(unreachable())
    const store = await opened()
    setHeadroom(store, 20)
    await pass(600)
    store.close()
    await store.untilSettled()
    await store.open('show')
    expect(headroom(store)).toBe(20)
    store.undo()
    expect(headroom(store)).toBe(30)
  })

  it('forgets the kept edit once the save that was on its way is through', async () => {
    const store = await opened()
    setHeadroom(store, 20)
    store.close()
    expect(localStorage).toHaveLength(1)
    await store.untilSettled()
    expect(localStorage).toHaveLength(0)
  })
})

describe('saved elsewhere', () => {
  const theirs = { ...demoShow, title: 'Theirs' }

  it('stops for a choice, and saves nothing until it is made', async () => {
    vi.mocked(saveShow).mockRejectedValueOnce(changedElsewhere(theirs, 2))
    const store = await opened()
    setHeadroom(store, 20)
    await pass(600)
    expect(store.saveState.name).toBe('changed elsewhere')
    expect(store.differences.map(({ place }) => place).sort()).toEqual([
      'lines "Glasshouse copper line" headroom percent',
      'title',
    ])
    setHeadroom(store, 25)
    await pass(5000)
    expect(saveShow).toHaveBeenCalledTimes(1)
    store.settle(new Set())
    await pass(600)
    expect(store.show.title).toBe('Theirs')
    expect(store.line.headroomPercent).toBe(25)
    expect(vi.mocked(saveShow).mock.calls[1]?.[1]).toBe(2)
    expect(store.saveState.name).toBe('saved')
  })

  it('takes theirs without losing ours: undo leads back', async () => {
    vi.mocked(saveShow).mockRejectedValueOnce(changedElsewhere(theirs, 2))
    const store = await opened()
    setHeadroom(store, 20)
    await pass(600)
    store.takeTheirs()
    expect(store.show).toEqual(theirs)
    expect(store.saveState.name).toBe('saved')
    store.undo()
    expect(store.show.title).toBe(demoShow.title)
    expect(store.line.headroomPercent).toBe(20)
  })

  it('asks nobody where the save had gone through and only its answer was lost', async () => {
    const store = await opened()
    setHeadroom(store, 20)
    const sent = structuredClone(store.show)
    vi.mocked(saveShow).mockRejectedValueOnce(unreachable())
    vi.mocked(saveShow).mockRejectedValueOnce(changedElsewhere(sent, 2))
    await pass(600)
    await pass(2100)
    expect(store.saveState.name).toBe('saved')
    setHeadroom(store, 25)
    await pass(600)
    expect(vi.mocked(saveShow).mock.calls.at(-1)?.[1]).toBe(2)
  })
})

describe('selection', () => {
  it('keeps the source chosen where the next scene has it too', async () => {
    await opened()
    const selection = useSelectionStore()
    selection.layerId = 'petals-wide-bench-camera'
    selection.chooseScene('bench-talk')
    expect(selection.selected?.layer.id).toBe('bench-talk-bench-camera')
    selection.chooseScene('starting-soon')
    expect(selection.selected).toBeUndefined()
  })

  it('falls back to the first scene when the chosen one is gone', async () => {
    const store = await opened()
    const selection = useSelectionStore()
    selection.chooseScene('bench-talk')
    store.edit('Remove', (draft) => {
      draft.scenes.splice(1, 1)
    })
    expect(selection.scene.id).toBe('petals-wide')
  })
})

describe('a show that is changed elsewhere while it is open', () => {
  const theirs = { ...demoShow, title: 'Renamed elsewhere' }

  it('is told, and taken in when it is wanted; undo leads back', async () => {
    vi.mocked(fetchShowIfNewer).mockResolvedValueOnce(null)
    const store = await opened()
    await store.lookElsewhere()
    expect(store.isNewerElsewhere).toBe(false)
    vi.mocked(fetchShowIfNewer).mockResolvedValueOnce({ show: theirs, revision: 2 })
    await store.lookElsewhere()
    expect(fetchShowIfNewer).toHaveBeenLastCalledWith('show', 1)
    expect([store.isNewerElsewhere, store.show.title]).toEqual([true, demoShow.title])
    store.takeNewer()
    expect([store.isNewerElsewhere, store.show.title]).toEqual([false, theirs.title])
    expect(store.saveState.name).toBe('saved')
    store.undo()
    await pass(1000)
    expect(saveShow).toHaveBeenLastCalledWith(
      'show',
      2,
      expect.objectContaining({ title: demoShow.title }),
    )
  })

  it('is not told over what is being edited here: saving brings the two together', async () => {
    const store = await opened()
    let give!: (stored: { show: typeof demoShow; revision: number }) => void
    vi.mocked(fetchShowIfNewer).mockReturnValueOnce(new Promise((resolve) => (give = resolve)))
    const looking = store.lookElsewhere()
    setHeadroom(store, 31)
    give({ show: theirs, revision: 2 })
    await looking
    expect(store.isNewerElsewhere).toBe(false)
    vi.mocked(fetchShowIfNewer).mockClear()
    await store.lookElsewhere()
    expect(fetchShowIfNewer).not.toHaveBeenCalled()
  })
})
