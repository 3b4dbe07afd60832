import { onScopeDispose } from 'vue'

/**
 * Work for the newest value of a control that is dragged, in a task of its own: an event of the mouse
 * is handled within the frame that is being drawn, which would have to wait for it. `finish` does at
 * once what is still waiting.
 */
export function useOwnTask<Value>(work: (value: Value) => void): {
  later: (value: Value) => void
  finish: () => void
} {
  let waiting: { value: Value } | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  function finish(): void {
    clearTimeout(timer)
    timer = undefined
    const next = waiting
    waiting = undefined
    if (next) work(next.value)
  }
  function later(value: Value): void {
    waiting = { value }
    timer ??= setTimeout(finish)
  }
  onScopeDispose(finish)
  return { later, finish }
}
