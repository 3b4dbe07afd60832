import { type MaybeRefOrGetter, onScopeDispose, shallowReactive, toValue, watch } from 'vue'

/** Something a person can do here, by key, by menu or by name in the finder. */
export interface Command {
  id: string
  label: string
  group: string
  /** As tinykeys writes them: "$mod+k", "c a" for one key after the other. */
  keys?: string
  run: () => void
  /** The keys work where the focus is (on a canvas, in a list) and are only listed here. */
  isListedOnly?: true
  /** Whether it can be done at the moment; always where left out. */
  isPossible?: () => boolean
  /** Also in a field: always, or as long as nothing has been typed into it that is not taken yet. */
  worksInFields?: 'always' | 'when unchanged'
}

const registered = shallowReactive(new Map<string, Command>())

/** Offers commands, which may change, for as long as the calling component is there. */
export function offerCommands(commands: MaybeRefOrGetter<readonly Command[]>): void {
  const withdraw = (offered: readonly Command[]): void => {
    for (const command of offered)
      if (registered.get(command.id) === command) registered.delete(command.id)
  }
  let offered: readonly Command[] = []
  watch(
    () => toValue(commands),
    (now) => {
      withdraw(offered)
      offered = now
      for (const command of now) registered.set(command.id, command)
    },
    { immediate: true },
  )
  onScopeDispose(() => withdraw(offered))
}

/** What can be done here, in the order in which it was offered. */
export const allCommands = (): Command[] => [...registered.values()]

export function runCommand(command: Command): void {
  if (command.isPossible?.() ?? true) command.run()
}
