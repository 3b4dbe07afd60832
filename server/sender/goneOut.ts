import type { Publisher } from './publisher'

/** More frames than may ever wait; what comes after them is as good as the last of them. */
const maxFrames = 20_000

/**
 * When the last frame of a send went out: a frame that was handed over has gone once all bytes up to its
 * end have. By a clock that nobody sets.
 */
export class GoneOut {
  /** Where the frames that wait end, in bytes of the connection. */
  private ends: number[] = []
  private from: Pick<Publisher, 'sentBytes'> | null = null
  private lastAt: number | null = null

  constructor(private readonly now: () => number = () => performance.now()) {}

  /** A frame was handed over. */
  handedOver(publisher: Pick<Publisher, 'sentBytes' | 'waitingBytes'>): void {
    this.from = publisher
    this.look()
    if (this.ends.length < maxFrames) this.ends.push(publisher.sentBytes + publisher.waitingBytes)
    this.look()
  }

  /** Another connection stands: what waited in the one before went with it. */
  connected(): void {
    this.ends = []
    this.from = null
  }

  /** Nothing went out yet. */
  clear(): void {
    this.connected()
    this.lastAt = null
  }

  /** Since the last frame went out; 0 before the first. */
  stillSeconds(): number {
    this.look()
    return this.lastAt === null ? 0 : (this.now() - this.lastAt) / 1000
  }

  private look(): void {
    const sent = this.from?.sentBytes ?? 0
    let gone = 0
    while (gone < this.ends.length && (this.ends[gone] as number) <= sent) gone += 1
    if (gone === 0) return
    this.ends.splice(0, gone)
    this.lastAt = this.now()
  }
}
