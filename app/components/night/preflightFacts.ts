import type { AccountState, PreflightFacts } from '@green-mantle/core/night'
import { computed, type ComputedRef, ref, type Ref, shallowRef } from 'vue'
import { fetchAccountState } from '~/api/accounts'
import { isFileKept } from '~/api/files'
import { browserMachine } from '~/browserEncoders/machine'
import { useHeardSounds } from '~/sound/heardSounds'
import { useKeysStore } from '~/stores/keys'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'

/** What each of several answers, by what was asked about; one that does not answer is left out. */
async function answersOf<Answer>(
  ids: readonly string[],
  ask: (id: string) => Promise<Answer>,
): Promise<[string, Answer][]> {
  const answers = await Promise.allSettled(
    [...new Set(ids)].map(async (id): Promise<[string, Answer]> => [id, await ask(id)]),
  )
  return answers.flatMap((answer) => (answer.status === 'fulfilled' ? [answer.value] : []))
}

/** What is known beside the show before its night begins, asked anew by `look`. */
export function usePreflightFacts(): {
  facts: ComputedRef<PreflightFacts>
  checkedAt: Ref<Date>
  isLooking: Ref<boolean>
  look: () => Promise<void>
} {
  const show = useShowStore()
  const sheet = useRunSheetStore()
  const keys = useKeysStore()
  const { heardAt } = useHeardSounds(() => show.id)
  const accounts = shallowRef<Readonly<Record<string, AccountState>> | null>(null)
  const missingFiles = shallowRef<ReadonlySet<string> | null>(null)
  const checkedAt = ref(new Date())
  const isLooking = ref(false)

  async function look(): Promise<void> {
    isLooking.value = true
    const { destinations, sources } = show.show
    const accountIds = destinations.flatMap(({ on, account }) =>
      on && account ? [account.accountId] : [],
    )
    const fileIds = sources.flatMap(({ appearance }) =>
      'fileId' in appearance ? [appearance.fileId] : [],
    )
    const [states, kept] = await Promise.all([
      answersOf(accountIds, fetchAccountState),
      answersOf(fileIds, isFileKept),
      keys.load(),
      sheet.lookAtComputer(),
    ])
    accounts.value = Object.fromEntries(states)
    missingFiles.value = new Set(kept.flatMap(([id, isKept]) => (isKept ? [] : [id])))
    checkedAt.value = new Date()
    isLooking.value = false
  }

  const facts = computed((): PreflightFacts => ({
    now: checkedAt.value,
    keys: keys.records,
    accounts: accounts.value,
    missingFiles: missingFiles.value,
    heardAt: heardAt.value,
    installation: sheet.installation,
    browserMachine: browserMachine(),
    freeDiskGigabytes: sheet.freeDiskGigabytes,
  }))
  return { facts, checkedAt, isLooking, look }
}
