import { type OrderedTask, seenOrder } from '@green-mantle/core/night'
import {
  maxOwnTasks,
  type OwnTask,
  type RunSheetSettings,
  type TaskChange,
  taskTimeLimitsSeconds,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'

const maxTitleCharacters = 200

type Changes = Partial<Omit<TaskChange, 'id'>>

/** What people do to the order of the night; each is one step of undo. */
export function useRunSheetEditing() {
  const store = useShowStore()
  const sheet = useRunSheetStore()

  const edit = (label: string, recipe: (runSheet: RunSheetSettings) => void): void =>
    store.edit(label, (draft) => recipe(draft.runSheet))

  /** A made title may be longer than a typed one: it holds the name of a destination. */
  const asTitle = (title: string): string => title.slice(0, maxTitleCharacters)
  const withinLimits = (seconds: number): number =>
    Math.min(taskTimeLimitsSeconds.max, Math.max(taskTimeLimitsSeconds.min, seconds))

  /** Changes a task that was made from the show, or one that was added. */
  function changeTask({ id, title, isOwn }: OrderedTask, asked: Changes): void {
    const changes =
      asked.atSeconds == null ? asked : { ...asked, atSeconds: withinLimits(asked.atSeconds) }
    edit(`Change ${title}`, (runSheet) => {
      if (isOwn) {
        const own = runSheet.ownTasks.find((task) => task.id === id)
        if (!own) return
        own.title = changes.title == null ? own.title : asTitle(changes.title)
        own.atSeconds = changes.atSeconds ?? own.atSeconds
        if (changes.personId !== undefined) own.personId = changes.personId
        return
      }
      let change = runSheet.changes.find((each) => each.id === id)
      if (!change) {
        change = { id, title: null, atSeconds: null, personId: null, leftOut: false }
        runSheet.changes.push(change)
      }
      Object.assign(change, changes)
      if (change.title !== null) change.title = asTitle(change.title)
      const { title: titled, atSeconds, personId, leftOut } = change
      // Nothing is left of what was done to it.
      if (titled === null && atSeconds === null && personId === null && !leftOut)
        runSheet.changes = runSheet.changes.filter((each) => each.id !== id)
    })
  }

  function leaveOut(task: OrderedTask): void {
    if (task.isOwn)
      edit(`Remove ${task.title}`, (runSheet) => {
        runSheet.ownTasks = runSheet.ownTasks.filter(({ id }) => id !== task.id)
      })
    else changeTask(task, { leftOut: true })
  }

  function bringBack(id: string, title: string): void {
    edit(`Bring back ${title}`, (runSheet) => {
      const change = runSheet.changes.find((each) => each.id === id)
      if (change) change.leftOut = false
    })
  }

  function addTask(task: Omit<OwnTask, 'id'>): void {
    edit(`Add ${task.title}`, (runSheet) => {
      if (runSheet.ownTasks.length < maxOwnTasks)
        runSheet.ownTasks.push({
          ...task,
          id: `own-${nanoid(12)}`,
          atSeconds: withinLimits(task.atSeconds),
        })
    })
  }

  function addPerson(name: string): void {
    edit(`Add ${name}`, ({ people }) => {
      people.push({ id: nanoid(12), name })
    })
  }
  function renamePerson(id: string, name: string): void {
    edit(`Rename ${name}`, ({ people }) => {
      const person = people.find((each) => each.id === id)
      if (person) person.name = name
    })
  }
  function removePerson(id: string, name: string): void {
    edit(`Remove ${name}`, (runSheet) => {
      runSheet.people = runSheet.people.filter((each) => each.id !== id)
    })
  }
  function setMargin(minutes: number): void {
    edit('Set the margin', (runSheet) => {
      runSheet.marginMinutes = minutes
    })
  }
  /** From here on it is told what is new, gone or moved. */
  function lookedThrough(): void {
    edit('Look the order through', (runSheet) => {
      runSheet.seen = seenOrder(sheet.order)
    })
  }

  return {
    ...{ changeTask, leaveOut, bringBack, addTask },
    ...{ addPerson, renamePerson, removePerson, setMargin, lookedThrough },
  }
}
