import {
  type Happening,
  type NewNightEvent,
  newNightEventSchema,
  senderName,
} from '@green-mantle/core/night'
import { nanoid } from 'nanoid'

/** A night of hours comes to some hundred entries; memory has an end. */
const maxWaiting = 5000
const retryMilliseconds = { first: 500, most: 10_000 } as const
/** No entry is older than the schema of the log lets it be. */
const oldestSeconds = 86_400

interface Waiting {
  event: Omit<NewNightEvent, 'agoSeconds'>
  /** By a clock that nobody sets. */
  happenedAt: number
}

/**
 * Keeps what happens in its order. Where it cannot be kept now, it waits and comes late, told as old as it
 * is then; what breaks the log's own schema is said to the server's log and left out.
 */
export class NightLogger {
  private readonly waiting: Waiting[] = []
  private keeping: Promise<void> | null = null
  private lostCount = 0

  constructor(private readonly keep: (events: readonly NewNightEvent[]) => Promise<unknown>) {}

  readonly log = (happening: Happening): void => {
    const event = { id: nanoid(21), who: senderName, happening }
    const read = newNightEventSchema.safeParse({ ...event, agoSeconds: 0 })
    if (!read.success) {
      console.error(`The sender cannot log ${happening.kind}.`, read.error.message)
      return
    }
    this.waiting.push({ event, happenedAt: performance.now() })
    if (this.waiting.length > maxWaiting) {
      this.waiting.shift()
      this.lostCount += 1
    }
    this.keeping ??= this.keepAll().finally(() => (this.keeping = null))
  }

  /** Resolves when all that was said is kept, or after so long. */
  async settled(mostMilliseconds: number): Promise<void> {
    let timer: ReturnType<typeof setTimeout> | undefined
    const over = new Promise<void>((resolve) => (timer = setTimeout(resolve, mostMilliseconds)))
    await Promise.race([this.keeping ?? Promise.resolve(), over])
    clearTimeout(timer)
  }

  private async keepAll(): Promise<void> {
    let pause: number = retryMilliseconds.first
    while (this.waiting.length > 0) {
      const batch = this.waiting.slice(0, 100)
      try {
        await this.keep(batch.map(asOldAsItIs))
        this.waiting.splice(0, batch.length)
        pause = retryMilliseconds.first
        if (this.lostCount > 0) console.error(`${this.lostCount} entries of a night were lost.`)
        this.lostCount = 0
      } catch (error) {
        console.warn('What the sender did cannot be kept yet; it is tried again.', error)
        // A server that ends does not wait for it.
        await new Promise((resolve) => setTimeout(resolve, pause).unref())
        pause = Math.min(retryMilliseconds.most, 2 * pause)
      }
    }
  }
}

const asOldAsItIs = ({ event, happenedAt }: Waiting): NewNightEvent => ({
  ...event,
  agoSeconds: Math.min(oldestSeconds, Math.max(0, (performance.now() - happenedAt) / 1000)),
})
