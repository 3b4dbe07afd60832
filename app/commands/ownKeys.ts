import { useLocalStorage } from '@vueuse/core'
import { allCommands, type Command } from './commands'

/** Keys that a person chose in this browser, by command. */
const own = useLocalStorage<Record<string, string>>('green-mantle.keys', {})

/** The keys of a command: one's own where they were chosen, else the usual ones. */
export const keysOf = ({ id, keys }: Command): string | undefined => own.value[id] ?? keys

export const hasOwnKeys = ({ id }: Command): boolean => own.value[id] !== undefined

const modifiers = ['Control', 'Meta', 'Alt', 'Shift', 'AltGraph', 'CapsLock']
const isApple = /Mac|iPhone|iPad/.test(navigator.platform)

/**
 * One press as keys are written: "Shift+M", "$mod+k". null for a modifier by itself, and for what keyboards
 * need to get about a page.
 */
export function keysFrom(event: KeyboardEvent): string | null {
  const { key, ctrlKey, metaKey, altKey, shiftKey } = event
  if (modifiers.includes(key) || ['Tab', 'Enter', 'Escape', ' ', 'Dead'].includes(key)) return null
  const isMain = isApple ? metaKey : ctrlKey
  const parts = [
    ...(isMain ? ['$mod'] : []),
    ...(altKey ? ['Alt'] : []),
    // A sign that needs Shift is named by itself.
    ...(shiftKey && (key.length > 1 || /\p{L}/u.test(key)) ? ['Shift'] : []),
  ]
  return [...parts, key.length === 1 && !shiftKey ? key.toLowerCase() : key].join('+')
}

/** The other command on this page that has these keys, or begins or ends with them. */
export const takenBy = (keys: string, command: Command): Command | undefined =>
  allCommands().find(
    (other) => other.id !== command.id && (keysOf(other)?.split(' ') ?? []).includes(keys),
  )

export function setOwnKeys({ id }: Command, keys: string): void {
  own.value = { ...own.value, [id]: keys }
}

/** Back to the usual keys. */
export function forgetOwnKeys({ id }: Command): void {
  const { [id]: _, ...others } = own.value
  own.value = others
}
