import type { Incident, IncidentKind } from '@green-mantle/core/show'
import { newIncident, defaultIncidents } from '@green-mantle/core/simulation'
import { nanoid } from 'nanoid'
import { ref } from 'vue'
import { useShowStore } from '~/stores/show'

const chosenId = ref<string>()

/** What can be done to the incidents of a night; every call is one edit of the show. */
export function useIncidents() {
  const store = useShowStore()

  /** Puts a usual one in, in the middle of what is left free or at a time. */
  function add(kind: IncidentKind, atSeconds: number): boolean {
    const incident = newIncident(kind, store.show, nanoid(12), Math.round(atSeconds))
    if (!incident) return false
    store.edit(`Add an incident: ${defaultIncidents[kind].label.toLowerCase()}`, (draft) => {
      draft.rehearsal.incidents.push(incident)
    })
    chosenId.value = incident.id
    return true
  }

  function change(id: string, changes: Partial<Incident>, mergeKey?: string): void {
    store.edit(
      'Change an incident',
      (draft) => {
        const incident = draft.rehearsal.incidents.find((each) => each.id === id)
        if (incident) Object.assign(incident, changes)
      },
      mergeKey === undefined ? {} : { mergeKey },
    )
  }

  function remove(id: string): void {
    store.edit('Remove an incident', (draft) => {
      draft.rehearsal.incidents = draft.rehearsal.incidents.filter((each) => each.id !== id)
    })
  }

  return { chosenId, add, change, remove }
}
