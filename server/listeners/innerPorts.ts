import { freeListenerPort } from './ports'

/** Another server of this computer looks elsewhere first. */
const firstPort = 21_400 + (process.pid % 50) * 40
const taken = new Set<number>()
let lastReserved: Promise<unknown> = Promise.resolve()

async function firstOf(count: number): Promise<number> {
  for (let from = firstPort; ;) {
    const port = await freeListenerPort(from, 'udp', taken)
    const others = Array.from({ length: count - 1 }, (_, index) => port + 1 + index)
    const next = await Promise.all(others.map((other) => freeListenerPort(other, 'udp', taken)))
    if (next.every((other, index) => other === others[index])) return port
    from = port + 1
  }
}

/** UDP ports behind the fronts, known to nobody but the program that listens there. */
export const innerPorts = {
  /**
   * So many in a row, of which the first is given. One after the other: SRT lets two programs bind one
   * port, and hears neither of them right.
   */
  reserve(count = 1): Promise<number> {
    const reserved = lastReserved.then(async () => {
      const port = await firstOf(count)
      for (let each = port; each < port + count; each += 1) taken.add(each)
      return port
    })
    lastReserved = reserved.catch(() => {})
    return reserved
  },
  free(port: number, count = 1): void {
    for (let each = port; each < port + count; each += 1) taken.delete(each)
  },
}
