import type { RelayedSend } from './relayedSend'

/** How often what waits of a send is looked at. */
const lookMilliseconds = 200

/** Sends whose encode can be lowered as it runs, by what waits of them. */
export class LoweredSends {
  private readonly sends: RelayedSend[] = []
  private readonly looking = setInterval(() => {
    for (const send of this.sends) send.lower()
  }, lookMilliseconds)

  constructor() {
    this.looking.unref()
  }

  /** Those whom one encode serves; what it gives is the share of its bitrate that the worst off bears. */
  add(sends: readonly RelayedSend[]): () => number {
    this.sends.push(...sends)
    return () => Math.min(1, ...sends.map(({ share }) => share))
  }

  stop(): void {
    clearInterval(this.looking)
  }
}
