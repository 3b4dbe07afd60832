/** A frame is spread over so much more than the mean rate, as senders of WebRTC do (common practice, no published source). */
const paceFactor = 2.5
const tickMilliseconds = 5

/** Packets on their way, so spread that a keyframe does not overrun what queues on the line. */
export interface PacedSend {
  add(packet: Buffer): void
  readonly waitingBytes: number
  close(): void
}

/** Hands packets on in their order, at most as fast as `kbps` allows with room for keyframes. */
export function pacedSend(kbps: number, send: (packet: Buffer) => void): PacedSend {
  const bytesPerTick = (kbps * paceFactor * tickMilliseconds) / 8
  const waiting: Buffer[] = []
  let waitingBytes = 0
  let allowedBytes = 0
  let timer: ReturnType<typeof setInterval> | undefined
  function tick(): void {
    allowedBytes = Math.min(allowedBytes, 0) + bytesPerTick
    while (allowedBytes > 0 && waiting.length > 0) {
      const packet = waiting.shift() as Buffer
      waitingBytes -= packet.length
      allowedBytes -= packet.length
      send(packet)
    }
    if (waiting.length > 0) return
    clearInterval(timer)
    timer = undefined
  }
  return {
    add(packet) {
      waiting.push(packet)
      waitingBytes += packet.length
      if (timer) return
      timer = setInterval(tick, tickMilliseconds)
      tick()
    },
    get waitingBytes() {
      return waitingBytes
    },
    close() {
      clearInterval(timer)
      waiting.length = 0
      waitingBytes = 0
    },
  }
}
