/** How a sender comes back after its connection broke; common practice, no published source. */
export const reconnectPractice = { afterSeconds: 2, maxTries: 25 } as const

/** How long a broken line may last before a sender that keeps to the practice gives up, in seconds. */
export const longestOutageSeconds = reconnectPractice.afterSeconds * reconnectPractice.maxTries
