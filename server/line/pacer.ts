import {
  creditsAfter,
  type PracticeLine,
  type PracticeSecond,
  practiceSecondAt,
  practiceSeconds,
} from '@green-mantle/core/network'

/** One connection's allowance on a practice line. */
interface PacedConnection {
  /** Resolves when so many bytes may pass; at once where there is credit. */
  pass(bytes: number): Promise<void>
  close(): void
}

export interface Pacer {
  /** A connection; of datagrams, where that is said, which take their rate whatever is lost. */
  open(kind?: 'stream' | 'datagrams'): PacedConnection
  /** Milliseconds, as the line is at this moment. */
  roundTripMilliseconds(): number
  /** Of packets that are not sent again by TCP, which shares what there is under its own ceiling instead. */
  lossShare(): number
  stop(): void
}

interface Clock {
  now(): number
  every(milliseconds: number, run: () => void): () => void
}

const realClock: Clock = {
  now: () => performance.now(),
  every: (milliseconds, run) => {
    const timer = setInterval(run, milliseconds)
    return () => clearInterval(timer)
  },
}

const tickMilliseconds = 25

interface Connection {
  isStream: boolean
  credit: number
  waiting: { bytes: number; resolve: () => void }[]
}

/** A pacer for a practice line. */
export const practicePacer = (
  line: PracticeLine,
  options: { seed: number; startHour: number; durationSeconds: number },
  clock: Clock = realClock,
): Pacer => pacerOf(practiceSeconds(line, { ...options, count: options.durationSeconds }), clock)

/**
 * Lets bytes pass as a line would that is known second by second: each tick's capacity is shared
 * between the open connections by max-min fairness, none beyond the TCP ceiling of its path.
 */
export function pacerOf(seconds: readonly PracticeSecond[], clock: Clock = realClock): Pacer {
  const startedAt = clock.now()
  const connections = new Set<Connection>()
  let last = startedAt
  let isStopped = false
  const second = () => practiceSecondAt(seconds, clock.now() - startedAt)

  function serve(connection: Connection): void {
    for (let next = connection.waiting[0]; next; next = connection.waiting[0]) {
      if (connection.credit < next.bytes) return
      connection.credit -= next.bytes
      connection.waiting.shift()
      next.resolve()
    }
  }

  function tick(): void {
    const now = clock.now()
    const milliseconds = now - last
    last = now
    const present = second()
    if (!present || connections.size === 0) return
    const open = [...connections]
    const credits = creditsAfter(
      open.map(({ isStream, credit, waiting }) => ({
        ...{ isStream, creditBytes: credit },
        waitingBytes: waiting[0]?.bytes ?? 0,
      })),
      present,
      milliseconds,
    )
    open.forEach((connection, index) => {
      connection.credit = credits[index] ?? 0
      serve(connection)
    })
  }
  function letGo(connection: Connection): void {
    connections.delete(connection)
    for (const { resolve } of connection.waiting.splice(0)) resolve()
  }
  const stopTicking = clock.every(tickMilliseconds, tick)

  return {
    open(kind = 'stream') {
      const connection: Connection = { isStream: kind === 'stream', credit: 0, waiting: [] }
      connections.add(connection)
      return {
        pass: (bytes) =>
          new Promise((resolve) => {
            // Nobody gives credit any more: who still sends is let through, to find that it is over.
            if (isStopped) return resolve()
            connection.waiting.push({ bytes, resolve })
            serve(connection)
          }),
        close: () => letGo(connection),
      }
    },
    roundTripMilliseconds: () => second()?.roundTripMilliseconds ?? 0,
    lossShare: () => (second()?.lossPercent ?? 0) / 100,
    stop() {
      isStopped = true
      stopTicking()
      connections.forEach(letGo)
    },
  }
}
