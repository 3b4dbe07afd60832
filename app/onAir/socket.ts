import { onAirBytes, type OnAirMessage } from '@green-mantle/core/on-air'
import type { CanvasName } from '@green-mantle/core/show'
import type { DrawingState } from './wireTypes'

/** So much may wait for the server; then whole groups of pictures are left out. */
const maxWaitingBytes = 16_000_000
const takenOverCode = 4001

/** The one socket over which pictures and sound go to the server. */
export function newOnAirSocket(told: { wanted: (canvases: CanvasName[]) => void }) {
  let socket: WebSocket | undefined
  let connection: DrawingState['connection'] = 'none'
  const waitsForKey: Record<CanvasName, boolean> = { landscape: false, vertical: false }

  function open(address: string): void {
    socket?.close()
    const own = new WebSocket(address)
    own.binaryType = 'arraybuffer'
    socket = own
    own.addEventListener('open', () => {
      if (socket === own) connection = 'open'
    })
    own.addEventListener('message', ({ data }) => {
      if (socket !== own) return
      const { wanted } = JSON.parse(String(data)) as { wanted: CanvasName[] }
      told.wanted(wanted)
    })
    own.addEventListener('close', ({ code }) => {
      if (socket !== own) return
      connection = code === takenOverCode ? 'taken over' : 'lost'
      told.wanted([])
    })
  }

  return {
    open,
    get connection(): DrawingState['connection'] {
      return connection
    },
    send(message: OnAirMessage): void {
      if (socket?.readyState !== WebSocket.OPEN) return
      if (message.kind === 'picture') {
        const { canvas, isKey } = message
        if (socket.bufferedAmount > maxWaitingBytes) waitsForKey[canvas] = true
        else if (isKey) waitsForKey[canvas] = false
        if (waitsForKey[canvas]) return
      } else if (socket.bufferedAmount > maxWaitingBytes) return
      socket.send(onAirBytes(message))
    },
    close(): void {
      const own = socket
      socket = undefined
      connection = 'none'
      own?.close()
    },
  }
}
