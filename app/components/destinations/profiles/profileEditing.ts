import { profileFileExtension, writeProfileFile } from '@green-mantle/core/formats'
import {
  type Destination,
  type Profile,
  profileWithSide,
  referenceTo,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { wordsFor } from '~/api/problem'
import { chooseTextFile, download, fileNameFor } from '~/composables/files'
import { useProfilesStore } from '~/stores/profiles'
import { useToastStore } from '~/stores/toasts'
import { readingWorker } from '~/workers/workers'
import { useDestinationEditing } from '../destinationEditing'

/** What can be done to destination profiles; what goes wrong is said and changes nothing. */
export function useProfileEditing() {
  const profiles = useProfilesStore()
  const editing = useDestinationEditing()
  const toasts = useToastStore()

  async function attempt(run: () => Promise<void>): Promise<void> {
    try {
      await run()
    } catch (error) {
      toasts.tell(wordsFor(error), { tone: 'fails' })
    }
  }

  /** Keeps what a destination is like as a profile: a first one, or a further revision of its own. */
  const saveFrom = (destination: Destination): Promise<void> =>
    attempt(async () => {
      const present = destination.profile ? profiles.byId(destination.profile.id) : undefined
      const profile = profileWithSide(present, destination, {
        id: nanoid(12),
        dated: new Date().toLocaleDateString('sv'),
      })
      await profiles.save(profile)
      editing.change(destination.id, 'Keep the profile of', (changed) => {
        changed.profile = referenceTo(profile)
      })
      toasts.tell(`${profile.name} is kept as revision ${profile.revision}.`)
    })

  const bringIn = (): Promise<void> =>
    attempt(async () => {
      const file = await chooseTextFile('.json,application/json', 400_000)
      if (!file) return
      const read = await readingWorker().readProfileFile(file.text)
      if (!read.ok) {
        const [problem] = read.problems
        toasts.tell(`${file.name}: ${problem?.place}: ${problem?.message}. Nothing was taken.`, {
          tone: 'fails',
        })
        return
      }
      await profiles.save(read.value)
      toasts.tell(`${read.value.name} is here, revision ${read.value.revision}.`)
    })

  const remove = (profile: Profile): Promise<void> =>
    attempt(async () => {
      await profiles.remove(profile.id)
      toasts.tell(`The profile ${profile.name} is removed; destinations made from it stay.`, {
        action: { label: 'Bring it back', run: () => profiles.save(profile) },
      })
    })

  const takeAway = (profile: Profile): void =>
    download(
      `${fileNameFor(profile.name)}${profileFileExtension}`,
      'application/json',
      writeProfileFile(profile),
    )

  return { saveFrom, bringIn, remove, takeAway }
}
