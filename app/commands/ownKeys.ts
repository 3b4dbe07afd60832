import { useLocalStorage } from '@vueuse/core'
import { allCommands, type Command } from './commands'

export const isApple = /Mac|iPhone|iPad/.test(navigator.platform)

/** Keys that a person chose in this browser, by command; what is kept there may be anything. */
const own = useLocalStorage<Record<string, string>>('green-mantle.keys', {})
const ownKeysOf = (id: string): string | undefined => {
  const keys: unknown = (own.value as Record<string, unknown> | null)?.[id]
  return typeof keys === 'string' && keys !== '' ? keys : undefined
}

/** The keys of a command: one's own where they were chosen, else the usual ones. */
export const keysOf = ({ id, keys }: Command): string | undefined => ownKeysOf(id) ?? keys

export const hasOwnKeys = ({ id }: Command): boolean => ownKeysOf(id) !== undefined

const modifiers = ['Control', 'Meta', 'Alt', 'Shift', 'AltGraph', 'CapsLock']

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

/** What else has these keys, or begins or ends with them: a command of this page, or one of another that was given them. */
export function takenBy(keys: string, { id }: Command): string | undefined {
  const other = allCommands().find(
    (each) => each.id !== id && (keysOf(each)?.split(' ') ?? []).includes(keys),
  )
  if (other) return other.label
  const isElsewhere = Object.keys(own.value ?? {}).some(
    (each) => each !== id && ownKeysOf(each) === keys,
  )
  return isElsewhere ? 'a command of another page' : undefined
}

export function setOwnKeys({ id }: Command, keys: string): void {
  own.value = { ...own.value, [id]: keys }
}

/** Back to the usual keys. */
export function forgetOwnKeys({ id }: Command): void {
  const { [id]: _, ...others } = own.value ?? {}
  own.value = others
}
