/** What comes in real time is waited for; a limit only ends what hangs. */
export const within = { timeout: 200_000, interval: 100 } as const
