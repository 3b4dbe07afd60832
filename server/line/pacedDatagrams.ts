import type { Pacer } from './pacer'

/** Lets datagrams through as a line would: in turn with all else that crosses it, and not what no longer waits. */
export interface PacedDatagrams {
  /** False where the datagram is lost. `flow` names the send that it belongs to. */
  pass(flow: string, bytes: number): Promise<boolean>
  close(): void
}

/** What a line's queue holds of one send; a home router's is of this order (common practice, no published source). */
const maxQueuedBytes = 64_000

/**
 * Datagrams through a pacer: each flow has its share of the line, and where too much of it waits the
 * newest is lost, as in a queue that drops its tail. A share is lost besides, as the line loses it.
 * `chance` gives numbers from 0 to 1.
 */
export function pacedDatagrams(pacer: Pacer, chance: () => number = Math.random): PacedDatagrams {
  const flows = new Map<string, { connection: ReturnType<Pacer['open']>; queuedBytes: number }>()
  let isClosed = false
  return {
    async pass(name, bytes) {
      if (isClosed) return true
      const flow = flows.get(name) ?? { connection: pacer.open('datagrams'), queuedBytes: 0 }
      flows.set(name, flow)
      if (flow.queuedBytes + bytes > maxQueuedBytes) return false
      if (chance() < pacer.lossShare()) return false
      flow.queuedBytes += bytes
      await flow.connection.pass(bytes)
      flow.queuedBytes -= bytes
      return true
    },
    close() {
      isClosed = true
      for (const { connection } of flows.values()) connection.close()
    },
  }
}
