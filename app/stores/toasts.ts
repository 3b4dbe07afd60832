import { defineStore } from 'pinia'
import { ref } from 'vue'

export interface Toast {
  id: number
  words: string
  tone: 'plain' | 'fails'
  action?: { label: string; run: () => void | Promise<void> }
}

const shownForMilliseconds = 10_000

/** Short notes at the edge of the page, some with one thing to do about them. */
export const useToastStore = defineStore('toasts', () => {
  const toasts = ref<Toast[]>([])
  let lastId = 0

  function dismiss(id: number): void {
    toasts.value = toasts.value.filter((toast) => toast.id !== id)
  }

  /** A failure stays until it is dismissed; anything else goes by itself. */
  function tell(words: string, options: Partial<Pick<Toast, 'tone' | 'action'>> = {}): number {
    lastId += 1
    const id = lastId
    toasts.value = [...toasts.value.slice(-3), { id, words, tone: 'plain', ...options }]
    if (options.tone !== 'fails') setTimeout(() => dismiss(id), shownForMilliseconds)
    return id
  }

  return { toasts, tell, dismiss }
})
