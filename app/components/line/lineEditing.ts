import {
  freeName,
  type Line,
  type LineSample,
  lineOf,
  newLine,
  type Show,
  type Traffic,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { useShowStore } from '~/stores/show'

/** What can be done to the show's lines; every call is one edit of the show. */
export function useLineEditing() {
  const store = useShowStore()

  /** Changes the line that the show goes up. */
  function change(label: string, recipe: (line: Line) => void, mergeKey?: string): void {
    store.edit(
      label,
      (draft) => {
        recipe(lineOf(draft))
      },
      mergeKey === undefined ? {} : { mergeKey },
    )
  }

  function choose(id: string): void {
    store.edit('Choose the line', (draft) => {
      draft.lineId = id
    })
  }

  function addAndChoose(label: string, line: Line): void {
    const names = store.show.lines.map(({ name }) => name)
    const added = { ...line, id: nanoid(12), name: freeName(line.name, names) }
    store.edit(label, (draft: Show) => {
      draft.lines.push(added)
      draft.lineId = added.id
    })
  }

  const add = (): void => addAndChoose('Add a line', newLine('line', 'Line'))
  const bring = (line: Line): void => addAndChoose(`Bring ${line.name} in`, line)

  /** The last line stays: a show goes up one. */
  function remove(): void {
    const { id, name } = store.line
    if (store.show.lines.length === 1) return
    store.edit(`Remove ${name}`, (draft) => {
      draft.lines = draft.lines.filter((line) => line.id !== id)
      draft.lineId = draft.lines[0]?.id ?? id
    })
  }

  function addSamples(label: string, samples: readonly LineSample[]): void {
    change(label, (line) => void line.samples.push(...samples))
  }

  function changeSample(id: string, changes: Partial<LineSample>): void {
    change('Change a measurement', ({ samples }) => {
      Object.assign(samples.find((sample) => sample.id === id) ?? {}, changes)
    })
  }

  function removeSample(id: string): void {
    change('Remove a measurement', (line) => {
      line.samples = line.samples.filter((sample) => sample.id !== id)
    })
  }

  /** The edits of a list of traffic, which stands in two places of a line. */
  function trafficEditing(listOf: (line: Line) => Traffic[], what: string) {
    const changeList = (label: string, recipe: (list: Traffic[]) => void): void =>
      change(label, (line) => recipe(listOf(line)))
    return {
      add: (name: string, bitrateKbps: number): void =>
        changeList(`Add ${what}`, (list) => {
          list.push({ id: nanoid(12), name, bitrateKbps, on: true })
        }),
      set: (id: string, changes: Partial<Traffic>): void =>
        changeList(`Change ${what}`, (list) => {
          Object.assign(list.find((traffic) => traffic.id === id) ?? {}, changes)
        }),
      remove: (id: string): void =>
        changeList(`Remove ${what}`, (list) => {
          list.splice(
            list.findIndex((traffic) => traffic.id === id),
            1,
          )
        }),
    }
  }

  return {
    change,
    choose,
    add,
    bring,
    remove,
    addSamples,
    changeSample,
    removeSample,
    trafficEditing,
  }
}
