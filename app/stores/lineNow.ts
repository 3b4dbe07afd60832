import { defineStore } from 'pinia'
import { ref } from 'vue'

/**
 * What the line carries while something is sent from here, told by the sender's store. Every step shows
 * it, so it stands apart from what knows how to send.
 */
export const useLineNowStore = defineStore('line now', () => ({
  /** Of all sends together; null while nothing is sent. */
  carriedKbps: ref<number | null>(null),
  /** Whether sends to more than one destination are behind. */
  isShort: ref(false),
}))
