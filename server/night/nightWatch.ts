import type { NightEvent } from '@green-mantle/core/night'
import type { Knex } from 'knex'
import { lastNightSequence, readNightEvents } from '../database/nights/nightStore'

/** Soon enough that every window shows a tick within a second, whichever server took it. */
const lookEveryMilliseconds = 400
/** Windows that look at nights at once. */
const maxWatchers = 200
/** So often it is asked whether a right still stands. */
const rightsEveryMilliseconds = 1000

export interface Watcher {
  /** The last entry that it has. */
  sequence: number
  /** Gets entries in their order; false where it can take no more. */
  take(events: readonly NightEvent[]): boolean
  /** Called where the show is gone, or the right to look is. */
  end(): void
  /** Whether it still may look, whatever process took its right back; who needs no right has none of this. */
  mayStay?: () => Promise<boolean>
}

/** Looks after the nights that somebody watches: one look at the database a show, however many watch it. */
export class NightWatch {
  private readonly watchers = new Map<string, Set<Watcher>>()
  private timer: ReturnType<typeof setTimeout> | undefined
  private looking: Promise<void> = Promise.resolve()
  private isClosed = false
  private rightsLookedAt = 0

  constructor(private readonly database: () => Promise<Knex>) {}

  get count(): number {
    return [...this.watchers.values()].reduce((sum, { size }) => sum + size, 0)
  }

  /** Begins to watch; gives what ends it, or null where too many do. */
  watch(showId: string, watcher: Watcher): (() => void) | null {
    if (this.isClosed || this.count >= maxWatchers) return null
    const group = this.watchers.get(showId) ?? new Set()
    this.watchers.set(showId, group.add(watcher))
    this.schedule(0)
    return () => {
      group.delete(watcher)
      if (group.size === 0 && this.watchers.get(showId) === group) this.watchers.delete(showId)
    }
  }

  /** Looks at once, since something was just kept here. */
  nudge(): void {
    if (this.watchers.size > 0) this.schedule(0)
  }

  /** Ends the watching of one show; whoever may goes on by asking again. */
  disconnect(showId: string): void {
    for (const watcher of this.watchers.get(showId) ?? []) watcher.end()
    this.watchers.delete(showId)
  }

  /** Ends all watching, for good. */
  close(): void {
    this.isClosed = true
    clearTimeout(this.timer)
    for (const group of this.watchers.values()) for (const watcher of group) watcher.end()
    this.watchers.clear()
  }

  private schedule(milliseconds: number): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => {
      // One look at a time, so that no watcher gets entries twice.
      this.looking = this.looking.then(() => this.look())
    }, milliseconds)
    this.timer.unref()
  }

  private async look(): Promise<void> {
    const now = performance.now()
    const looksAtRights = now - this.rightsLookedAt >= rightsEveryMilliseconds
    if (looksAtRights) this.rightsLookedAt = now
    for (const [showId, group] of this.watchers) {
      try {
        if (looksAtRights) await this.letGo(showId, group)
        await this.lookAt(showId, group)
      } catch (error) {
        // The database is away for a moment: what was missed is read at the next look.
        console.warn('The log of a night could not be read; it is tried again.', error)
      }
    }
    if (this.watchers.size > 0) this.schedule(lookEveryMilliseconds)
  }

  /** Those whose right has run out or was taken back. */
  private async letGo(showId: string, group: Set<Watcher>): Promise<void> {
    for (const watcher of [...group]) {
      if (!watcher.mayStay || (await watcher.mayStay())) continue
      group.delete(watcher)
      watcher.end()
    }
    if (group.size === 0) this.watchers.delete(showId)
  }

  private async lookAt(showId: string, group: ReadonlySet<Watcher>): Promise<void> {
    const database = await this.database()
    const last = await lastNightSequence(database, showId)
    if (last === undefined) {
      for (const watcher of group) watcher.end()
      this.watchers.delete(showId)
      return
    }
    const behind = [...group].filter(({ sequence }) => sequence < last)
    if (behind.length === 0) return
    const from = Math.min(...behind.map(({ sequence }) => sequence))
    const events = await readNightEvents(database, showId, from)
    for (const watcher of behind) {
      const news = events.filter(({ sequence }) => sequence > watcher.sequence)
      if (news.length > 0 && watcher.take(news)) watcher.sequence = news.at(-1)?.sequence ?? last
    }
  }
}
