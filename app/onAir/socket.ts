import {
  maxPictureBytes,
  onAirBytes,
  type OnAirLane,
  type OnAirMessage,
  type OnAirWanted,
} from '@green-mantle/core/on-air'
import { openOnAir } from '../api/onAir'
import { ApiProblem, wordsFor } from '../api/problem'
import type { DrawingState } from './wireTypes'

/** So much may wait for the server; then whole groups of pictures are left out. */
const maxWaitingBytes = 16_000_000
const takenOverCode = 4001
const retryMilliseconds = 400

/**
 * The one socket over which pictures and sound go to the server, opened again by itself: in a worker, since
 * timers of a hidden page may wait for a minute.
 */
export function newOnAirSocket(told: { wanted: (lanes: OnAirLane[]) => void }) {
  let socket: WebSocket | undefined
  let connection: DrawingState['connection'] = 'none'
  let problem = ''
  let retry: ReturnType<typeof setTimeout> | undefined
  let showId: string | undefined
  /** Lanes of which pictures were left out, up to a keyframe. */
  const waitsForKey = new Set<string>()

  function later(): void {
    clearTimeout(retry)
    retry = setTimeout(() => void connect(), retryMilliseconds)
  }

  function open(ticket: string): void {
    const address = new URL(`/on-air/${ticket}`, self.location.origin)
    address.protocol = address.protocol === 'https:' ? 'wss:' : 'ws:'
    const own = new WebSocket(address)
    own.binaryType = 'arraybuffer'
    socket = own
    own.addEventListener('open', () => {
      if (socket === own) connection = 'open'
    })
    own.addEventListener('message', ({ data }) => {
      if (socket !== own) return
      const { wanted } = JSON.parse(String(data)) as OnAirWanted
      told.wanted(wanted)
    })
    own.addEventListener('close', ({ code }) => {
      if (socket !== own) return
      socket = undefined
      connection = code === takenOverCode ? 'elsewhere' : 'lost'
      told.wanted([])
      if (connection === 'lost') later()
    })
  }

  /** Opens the socket of a show's window; where another window has it, only if that is to be taken over. */
  async function connect(takesOver = false): Promise<void> {
    clearTimeout(retry)
    const id = showId
    if (id === undefined) return
    try {
      const ticket = await openOnAir(id, takesOver)
      problem = ''
      if (showId === id && socket === undefined) open(ticket)
    } catch (error) {
      if (showId !== id) return
      const isElsewhere = error instanceof ApiProblem && error.status === 409
      connection = isElsewhere ? 'elsewhere' : 'lost'
      problem = isElsewhere ? '' : wordsFor(error)
      if (!isElsewhere) later()
    }
  }

  return {
    connect(id: string, takesOver: boolean): Promise<void> {
      showId = id
      return connect(takesOver)
    },
    get connection(): DrawingState['connection'] {
      return connection
    },
    get problem(): string {
      return problem
    },
    /** Hands a message over; false where it is left out since too much waits, or it is too large. */
    send(message: OnAirMessage): boolean {
      if (socket?.readyState !== WebSocket.OPEN) return true
      const isTooMuch =
        socket.bufferedAmount > maxWaitingBytes || message.bytes.length > maxPictureBytes
      if (message.kind === 'picture') {
        const lane = `${message.canvas} ${message.lane}`
        if (isTooMuch) waitsForKey.add(lane)
        else if (message.isKey) waitsForKey.delete(lane)
        if (waitsForKey.has(lane)) return false
      } else if (isTooMuch) return false
      socket.send(onAirBytes(message))
      return true
    },
    close(): void {
      const own = socket
      ;[socket, showId, connection] = [undefined, undefined, 'none']
      clearTimeout(retry)
      own?.close()
    },
  }
}
