import {
  freeName,
  newSound,
  removeSounds,
  type Sound,
  type SoundKind,
  type Source,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { useShowStore } from '~/stores/show'

const firstNames: Record<Exclude<SoundKind, 'own sound'>, string> = {
  microphone: 'Microphone',
  'computer sound': 'Computer sound',
  music: 'Music',
}

/** What can be done to the sounds of a show; every call is one edit. */
export function useSoundEditing() {
  const store = useShowStore()
  const nameOf = (id: string): string =>
    store.show.sounds.find((sound) => sound.id === id)?.name ?? ''

  function change(id: string, changes: Partial<Sound>, label = 'Change', mergeKey?: string): void {
    store.edit(
      `${label} ${nameOf(id)}`,
      (draft) => {
        const sound = draft.sounds.find((candidate) => candidate.id === id)
        if (sound) Object.assign(sound, changes)
      },
      mergeKey === undefined ? {} : { mergeKey },
    )
  }

  function put(sound: Sound): string {
    store.edit(`Add ${sound.name}`, (draft) => {
      draft.sounds.push(sound)
    })
    return sound.id
  }

  const named = (name: string): string =>
    freeName(
      name,
      store.show.sounds.map((sound) => sound.name),
    )

  function add(kind: Exclude<SoundKind, 'own sound'>): string {
    return put(newSound(nanoid(12), named(firstNames[kind]), kind))
  }

  /** A source's own sound; a camera's hears what the microphones hear, so that is said to begin with. */
  function addOwn(source: Source): string {
    const sound = newSound(nanoid(12), named(`${source.name}’s own`.slice(0, 190)), 'own sound')
    const microphones = store.show.sounds.filter(({ kind }) => kind === 'microphone')
    return put({
      ...sound,
      sourceId: source.id,
      alsoHeardIn: source.kind === 'camera' ? microphones.map(({ id }) => id) : [],
    })
  }

  function remove(id: string): void {
    store.edit(`Remove ${nameOf(id)}`, (draft) => {
      removeSounds(draft, (sound) => sound.id === id)
    })
  }

  return { change, add, addOwn, remove }
}
