/** One thing about a destination that is not ready. */
export interface DestinationCheck {
  destinationId: string
  /** Where on the destination it is put right. */
  area: 'connects' | 'words' | 'night'
  tone: 'fails' | 'attention'
  /** A sentence that names the destination and what to do. */
  words: string
}
