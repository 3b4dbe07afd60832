import { createKeybindingsHandler, type KeyBindingMap } from 'tinykeys'
import { onScopeDispose, watch } from 'vue'
import { allCommands, type Command, runCommand } from './commands'
import { isApple, keysOf } from './ownKeys'

/** How long a press waits for the next of a sequence: not everybody is quick, and no computer always is. */
const sequenceMilliseconds = 2000

const keyNames: Record<string, string> = {
  $mod: isApple ? 'Cmd' : 'Ctrl',
  Shift: 'Shift',
  Alt: isApple ? 'Option' : 'Alt',
  arrows: 'arrow keys',
  PageUp: 'Page Up',
  PageDown: 'Page Down',
  ArrowUp: 'Up',
  ArrowDown: 'Down',
  ArrowLeft: 'Left',
  ArrowRight: 'Right',
  Delete: 'Delete',
  '\\?': '?',
}

/** "$mod+Shift+z" → ["Ctrl+Shift+Z"]; "c a" → ["C", "A"], pressed one after the other. */
export function keysInWords(keys: string): string[] {
  return keys.split(' ').map((press) =>
    press
      .split('+')
      .map((part) => keyNames[part] ?? part.replace(/^(Digit|Key)/, '').toUpperCase())
      .join('+'),
  )
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      target.matches('input:not([type=checkbox],[type=radio],[type=range]), textarea, select'))
  )
}

const isInDialog = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('[role=dialog]') !== null

function worksThere({ worksInFields }: Command, target: EventTarget | null): boolean {
  if (!isTyping(target) || worksInFields === 'always') return true
  return worksInFields === 'when unchanged' && (target as HTMLElement).dataset.unchanged === 'true'
}

const pressesIn = (command: Command): number => (keysOf(command) ?? '').split(' ').length

/**
 * Listens for the keys of every command on offer, for as long as the calling component is there.
 * Where one press completes several ("L", and "H then L"), the longest counts.
 */
export function listenForKeys(): void {
  let matches: Command[] = []
  let handle: EventListener = () => {}
  watch(
    () =>
      allCommands().flatMap((command) => {
        const keys = command.isListedOnly ? undefined : keysOf(command)
        return keys ? [{ command, keys }] : []
      }),
    (withKeys) => {
      handle = createKeybindingsHandler(
        Object.fromEntries(
          withKeys.map(({ command, keys }) => [keys, () => matches.push(command)]),
        ) as KeyBindingMap,
        { timeout: sequenceMilliseconds },
      )
    },
    { immediate: true },
  )
  const listener = (event: KeyboardEvent): void => {
    if (isInDialog(event.target)) return
    matches = []
    handle(event)
    const [longest] = matches.toSorted((a, b) => pressesIn(b) - pressesIn(a))
    if (!longest || !worksThere(longest, event.target)) return
    event.preventDefault()
    runCommand(longest)
  }
  window.addEventListener('keydown', listener)
  onScopeDispose(() => window.removeEventListener('keydown', listener))
}
