import type { CleanLimits } from '@green-mantle/core/show'
import { useShowStore } from '~/stores/show'

/** What can be set of a rehearsal; every call is one edit of the show. */
export function useRehearsalEditing() {
  const store = useShowStore()
  type Rehearsal = typeof store.show.rehearsal

  function set(label: string, changes: Partial<Rehearsal>): void {
    store.edit(label, ({ rehearsal }) => void Object.assign(rehearsal, changes))
  }

  return {
    setWantedPercent: (wantedPercent: number): void =>
      set('Set how many nights are to be clean', { wantedPercent }),
    setHeadroomFollows: (headroomFollows: boolean): void =>
      set(headroomFollows ? 'Let the headroom follow' : 'Leave the headroom as it is set', {
        headroomFollows,
      }),
    setClean: (name: keyof CleanLimits, value: number): void =>
      set('Set what a clean night allows', {
        clean: { ...store.show.rehearsal.clean, [name]: value },
      }),
    drawOtherNights: (seed: number): void => set('Draw other nights', { seed }),
  }
}
