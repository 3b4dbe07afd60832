import type { Socket } from 'node:net'

/** Whoever sends says where it belongs within a moment, one after the other where a program has many: more at once are no senders. */
const limits = { ofOneAddress: 64, inAll: 128 } as const

/**
 * Connections that have not said where they belong. Where there are too many, of one address or in all, the
 * oldest of them goes, so that nobody who says it at once is kept out by those who never do.
 */
export class HalfOpen {
  private readonly sockets = new Map<Socket, string>()

  add(socket: Socket): void {
    const address = socket.remoteAddress ?? ''
    this.sockets.set(socket, address)
    socket.once('close', () => this.sockets.delete(socket))
    const own = [...this.sockets].filter(([, each]) => each === address)
    if (own.length > limits.ofOneAddress) this.letGo(own[0]?.[0])
    if (this.sockets.size > limits.inAll) this.letGo(this.sockets.keys().next().value)
  }

  /** It said where it belongs. */
  settle(socket: Socket): void {
    this.sockets.delete(socket)
  }

  private letGo(socket: Socket | undefined): void {
    if (!socket) return
    this.sockets.delete(socket)
    socket.destroy()
  }
}
