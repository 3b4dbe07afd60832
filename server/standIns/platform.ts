import { randomBytes } from 'node:crypto'
import type { ChatLine, StandInState } from '@green-mantle/core/night'
import type { Destination } from '@green-mantle/core/show'

type Rules = Pick<Destination, 'name' | 'rules' | 'lagSeconds' | 'protocol'>

export interface PlatformState extends StandInState {
  /** Given out on its page; null where it gives out none. */
  key: string | null
}

/** Nobody said these; they stand in for viewers. */
const viewerLines = [
  ['Viewer 12', 'Evening from the north'],
  ['Viewer 40', 'Is this live?'],
  ['Viewer 7', 'How long does it stay open?'],
  ['Viewer 31', 'The sound is good here'],
  ['Viewer 12', 'Can you show the back of the flower?'],
  ['Viewer 55', 'What does it smell like?'],
] as const
const chatEverySeconds = 6
const maxLines = 50

/**
 * A platform that stands in for a destination and behaves as its rules say: gives out keys, shows the
 * picture with its lag, is started and ended where it wants to be, and freezes where it is ended wrongly.
 * `now` in milliseconds.
 */
export class StandInPlatform {
  private signalSince: number | null = null
  private lostAt: number | null = null
  private startedAt: number | null = null
  private endedAt: number | null = null
  private isPractice = false
  private key: string | null = null
  /** The next program that comes is sent away once. */
  refusesNext = false

  constructor(
    readonly destination: Rules,
    private readonly now: () => number = Date.now,
  ) {}

  private get isPressed(): boolean {
    return this.destination.rules.start === 'pressed on its page'
  }

  /** A key for this session, where it gives out one a session; the one before is good no more. */
  giveKey(): string | null {
    if (this.destination.rules.key.life !== 'per session') return null
    this.key = `session-${randomBytes(6).toString('hex')}`
    return this.key
  }

  /** Why it does not take a program with this key; null where it does. */
  refusal(key: string): string | null {
    if (this.refusesNext) {
      this.refusesNext = false
      return 'it is too busy just now'
    }
    if (this.destination.rules.key.life !== 'per session') return null
    if (this.key === null) return 'no session was made on its page'
    return key.startsWith(this.key) ? null : 'this key is of another session'
  }

  signalCame(): void {
    const now = this.now()
    if (this.endedAt !== null) {
      // What was ended is over: this is another session.
      this.startedAt = null
      this.endedAt = null
      this.signalSince = null
    }
    this.signalSince ??= now
    this.lostAt = null
  }

  signalWent(): void {
    this.lostAt = this.now()
  }

  /** Pressed on its page; false where there is no picture yet, or nothing to press. */
  pressStart(isPractice: boolean): boolean {
    if (!this.isPressed || this.state().picture !== 'there' || this.startedAt !== null) return false
    this.startedAt = this.now()
    this.isPractice = isPractice
    return true
  }

  /** From practice to everybody. */
  openToAll(): void {
    this.isPractice = false
  }

  pressEnd(): boolean {
    if (!this.state().isLive && this.state().picture === 'none') return false
    this.endedAt = this.now()
    this.key = null
    return true
  }

  state(): PlatformState {
    const now = this.now()
    const lag = this.destination.lagSeconds * 1000
    const endsBySignal = this.destination.rules.end !== 'pressed on its page'
    const hasArrived = this.signalSince !== null && now >= this.signalSince + lag
    const isGone = this.lostAt !== null && now >= this.lostAt + lag
    const isOver = this.endedAt !== null || (endsBySignal && isGone && hasArrived)
    const isStarted = this.isPressed ? this.startedAt !== null : hasArrived
    const isLive = isStarted && !isOver
    const shown = isOver
      ? 'none'
      : !hasArrived
        ? this.signalSince === null || isGone
          ? 'none'
          : 'on its way'
        : isGone
          ? isLive
            ? 'frozen'
            : 'none'
          : 'there'
    return {
      picture: shown,
      isLive,
      isPractice: isLive && this.isPractice,
      isOver,
      key: this.key,
    }
  }

  /** What viewers wrote since it is live, first to last. */
  chat(): ChatLine[] {
    const { isLive } = this.state()
    const since = this.isPressed
      ? this.startedAt
      : this.signalSince && this.signalSince + this.destination.lagSeconds * 1000
    if (!isLive || since === null || this.isPractice) return []
    const count = Math.floor((this.now() - since) / 1000 / chatEverySeconds)
    return Array.from({ length: Math.min(count, maxLines) }, (_, index) => {
      const number = count - Math.min(count, maxLines) + index
      const [who, text] = viewerLines[number % viewerLines.length] as (typeof viewerLines)[number]
      return {
        at: new Date(since + (number + 1) * chatEverySeconds * 1000).toISOString(),
        who,
        text,
      }
    })
  }
}
