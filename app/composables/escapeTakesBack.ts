import { useEventListener } from '@vueuse/core'

type TextField = HTMLInputElement | HTMLTextAreaElement

/** What is typed into a search is no loss, so Escape goes on to close it. */
const isTextField = (target: EventTarget | null): target is TextField =>
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLInputElement &&
    ['text', 'datetime-local', 'url'].includes(target.type) &&
    target.getAttribute('role') !== 'combobox')

/**
 * Escape in a field with something typed takes that back and does no more; only the next Escape
 * closes what the field stands in. The same for every field of the application.
 */
export function useEscapeTakesBack(): void {
  const before = new WeakMap<TextField, string>()
  const remember = ({ target }: Event): void => {
    if (isTextField(target)) before.set(target, target.value)
  }
  useEventListener(document, 'focusin', remember, { capture: true })
  // What was taken is no longer to be taken back.
  useEventListener(document, 'change', remember, { capture: true })
  useEventListener(
    document,
    'keydown',
    (event) => {
      const { key, target } = event
      if (key !== 'Escape' || event.isComposing || !isTextField(target)) return
      const value = before.get(target)
      if (value === undefined || target.value === value) return
      target.value = value
      target.dispatchEvent(new Event('input', { bubbles: true }))
      // Whoever closes on Escape looks at this.
      event.preventDefault()
    },
    { capture: true },
  )
}
