/** Resolves at Ctrl-C or when asked to end; a second Ctrl-C while things are being stopped does nothing. */
export function untilInterrupted(): Promise<void> {
  return new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
      process.on(signal, () => resolve())
  })
}
