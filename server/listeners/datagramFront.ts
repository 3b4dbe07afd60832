import { createSocket, type RemoteInfo, type Socket } from 'node:dgram'
import { once } from 'node:events'

/** What a datagram of a caller that was not let in yet comes to. */
export type Knock =
  /** No word that begins a call. */
  | 'none'
  /** Answered, and nothing is kept of who asked. */
  | { answer: Buffer }
  /** `greeting`: what has to pass with the program behind the door before this is handed on. */
  | { letInAs: string; greeting?: Greeting }

/** A word to the program behind the door, and what is handed on once it has answered that; null while it has not. */
export interface Greeting {
  first: Buffer
  then: (answer: Buffer) => Buffer | null
}

export interface DatagramFrontOptions {
  host: string
  /** The first that nobody has from here on is taken. */
  firstPort: number
  knock: (datagram: Buffer, caller: string) => Knock
  /** What carries picture and sound, apart from what only steers. */
  isMedia: (datagram: Buffer) => boolean
  /** Whether a datagram gets through, and when; without it all do, at once. */
  pass?: ((bytes: number) => Promise<boolean>) | undefined
}

/** The UDP port at which callers knock, before what speaks their protocol. */
export interface DatagramFront {
  readonly port: number
  /** Resolves when somebody calls. */
  called(): Promise<void>
  /** Where callers go on to from now on, nowhere while nobody listens; whoever came before is nobody any more. */
  leadTo(port: number | null): void
  /** The name of who was let in last. */
  caller(): string
  /** Of those that were let in where callers last went on to: their IP packets, and what did not get through. */
  crossed(): { wireBytes: number; datagrams: number; lostDatagrams: number }
  /** Lets callers knock at the same port of another address of this computer too; rejects where that is taken. */
  openAt(address: string): Promise<void>
  /** Lets go of everybody who came by those, and takes nobody there any more. */
  closeElsewhere(): void
  close(): void
}

interface Caller {
  /** Where it knocked. */
  door: Socket
  onward: Socket
  /** What still has to pass before it is let in; null once it is. */
  greeting: Greeting | null
  heardAt: number
}

const ipAndUdpBytes = 28
/** One is taken; others may try, and take no memory when they are many. */
const maxCallers = 8
const forgottenMilliseconds = 10_000
const maxTriedPorts = 200
export const nothingCrossed = { wireBytes: 0, datagrams: 0, lostDatagrams: 0 }

/** Opens a port that hands callers on, so that it is known who they are and their packets are counted. */
export async function openDatagramFront(options: DatagramFrontOptions): Promise<DatagramFront> {
  const { host, knock, isMedia, pass } = options
  const elsewhere = new Map<string, Socket>()
  const callers = new Map<string, Caller>()
  /** So that what is still being opened then is known to have been closed. */
  let timesClosed = 0
  let target: number | null = null
  let lastCaller = ''
  let crossed = { ...nothingCrossed }
  let wake: () => void = () => {}

  const letGo = (name: string): void => {
    callers.get(name)?.onward.close()
    callers.delete(name)
  }

  function newCaller(
    name: string,
    { address, port: from }: RemoteInfo,
    door: Socket,
    greeting: Greeting | null,
  ): Caller | null {
    for (const [known, { heardAt }] of callers)
      if (performance.now() - heardAt > forgottenMilliseconds) letGo(known)
    if (callers.size >= maxCallers) return null
    const onward = createSocket('udp4')
    onward.on('message', (answer) => {
      const next = caller.greeting?.then(answer)
      if (next) {
        caller.greeting = null
        void handOn(caller, next)
      } else if (!caller.greeting) door.send(answer, from, address)
    })
    // What nobody listens to any more comes back as an error; the caller finds out by itself.
    onward.on('error', () => {})
    const caller: Caller = { door, onward, greeting, heardAt: performance.now() }
    callers.set(name, caller)
    return caller
  }

  async function handOn(caller: Caller, datagram: Buffer): Promise<void> {
    const to = target
    if (to === null) return
    crossed.wireBytes += datagram.length + ipAndUdpBytes
    if (isMedia(datagram)) crossed.datagrams += 1
    const counted = crossed
    if (pass && !(await pass(datagram.length + ipAndUdpBytes))) {
      if (isMedia(datagram)) counted.lostDatagrams += 1
      return
    }
    // Who was let go meanwhile has a socket that is closed.
    if ([...callers.values()].includes(caller)) caller.onward.send(datagram, to, host)
  }

  function take(datagram: Buffer, from: RemoteInfo, door: Socket): void {
    // Nobody can be answered there.
    if (from.port === 0) return
    const name = `${door.address().address} ${from.address} ${from.port}`
    const known = callers.get(name)
    if (target !== null && known && !known.greeting) {
      known.heardAt = performance.now()
      void handOn(known, datagram)
      return
    }
    const said = knock(datagram, name)
    if (said === 'none') return
    if ('answer' in said) {
      door.send(said.answer, from.port, from.address)
      return
    }
    wake()
    // Who calls says it again until it is answered.
    if (target === null) return
    const greeting = said.greeting ?? null
    const caller = known ?? newCaller(name, from, door, greeting)
    if (!caller) return
    caller.heardAt = performance.now()
    caller.greeting = greeting
    lastCaller = said.letInAs
    if (greeting) caller.onward.send(greeting.first, target, host)
    else void handOn(caller, datagram)
  }

  async function openDoor(address: string, port: number): Promise<Socket> {
    const door = createSocket('udp4')
    door.bind({ port, address, exclusive: true })
    await once(door, 'listening').catch((error: unknown) => {
      door.close()
      throw error
    })
    door.on('error', (error) => console.error('Listening for datagrams:', error.message))
    door.on('message', (datagram, from) => take(datagram, from, door))
    return door
  }
  function closeElsewhere(): void {
    timesClosed += 1
    const doors = new Set(elsewhere.values())
    for (const [name, { door }] of callers) if (doors.has(door)) letGo(name)
    for (const door of doors) door.close()
    elsewhere.clear()
  }
  /** Bound at once where it is free, so that nobody can take it between a look and that. */
  async function openFirstFree(): Promise<Socket> {
    for (let port = options.firstPort; port < options.firstPort + maxTriedPorts; port += 1) {
      const door = await openDoor(host, port).catch((error: NodeJS.ErrnoException) => {
        if (error.code !== 'EADDRINUSE') throw error
      })
      if (door) return door
    }
    throw new Error(`No port is free from ${options.firstPort} on.`)
  }
  const front = await openFirstFree()
  const { port } = front.address()

  return {
    port,
    called: () => new Promise((resolve) => (wake = resolve)),
    leadTo(next) {
      for (const name of [...callers.keys()]) letGo(name)
      // What crossed for who was there last is still to be told when they are gone.
      if (next !== null) crossed = { ...nothingCrossed }
      target = next
    },
    caller: () => lastCaller,
    crossed: () => ({ ...crossed }),
    async openAt(address) {
      if (elsewhere.has(address)) return
      const before = timesClosed
      const door = await openDoor(address, port)
      // Closed again while it was being opened: it was not to stay open.
      if (before !== timesClosed) door.close()
      else elsewhere.set(address, door)
    },
    closeElsewhere,
    close() {
      wake()
      closeElsewhere()
      for (const name of [...callers.keys()]) letGo(name)
      front.close()
    },
  }
}
