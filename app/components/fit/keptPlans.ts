import { planOf } from '@green-mantle/core/plan'
import { changedById, freeName, type KeptPlan } from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { useShowStore } from '~/stores/show'

/** What can be done to the plans that were kept for comparison; every call is one edit of the show. */
export function useKeptPlans() {
  const store = useShowStore()

  /** Keeps the plan as it is now. */
  function keep(): void {
    const names = store.show.keptPlans.map(({ name }) => name)
    const plan: KeptPlan = {
      id: nanoid(12),
      name: freeName('Plan', names),
      parts: JSON.parse(JSON.stringify(planOf(store.show))) as KeptPlan['parts'],
    }
    store.edit(`Keep ${plan.name}`, (draft) => {
      draft.keptPlans.push(plan)
    })
  }

  function rename({ id, name: before }: KeptPlan, typed: string): void {
    const name = typed.trim()
    if (name === '' || name === before) return
    store.edit(`Rename ${before}`, (draft) => {
      draft.keptPlans = changedById(draft.keptPlans, id, (plan) => ({ ...plan, name }))
    })
  }

  function remove({ id, name }: KeptPlan): void {
    store.edit(`Remove ${name}`, (draft) => {
      draft.keptPlans = draft.keptPlans.filter((plan) => plan.id !== id)
    })
  }

  return { keep, rename, remove }
}
