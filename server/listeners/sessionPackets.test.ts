import { createSocket } from 'node:dgram'
import { afterEach, expect, it, vi } from 'vitest'
import { innerPorts } from './innerPorts'
import { portsOfSession, sessionDescription, sessionPackets } from './sessionPackets'

const ends: (() => unknown)[] = []
afterEach(() => {
  for (const end of ends.splice(0)) end()
})

const { signal } = new AbortController()
const picture = (timeStamp: number, payload: number[], type = 102) => ({
  timeStamp,
  payload: Buffer.from(payload),
  bytes: () => Buffer.from([0x80, 0x80 | type, 0, 1, ...payload]),
})
const sound = (timeStamp: number) => ({
  timeStamp,
  payload: Buffer.from([0xfc]),
  bytes: () => Buffer.from([0x80, 111, 0, 1, 0xfc]),
})

async function session() {
  const port = await innerPorts.reserve(portsOfSession)
  const made = sessionPackets(port)
  ends.push(made.close, () => innerPorts.free(port, portsOfSession))
  return { port, made }
}

it('holds what comes until somebody reads, from where a decoder can begin, by the numbers that it was told', async () => {
  const { port, made } = await session()
  made.take('video', picture(1, [0x41, 1]))
  made.take('audio', sound(1))
  made.take('video', picture(2, [0x65, 1]))
  made.take('audio', sound(2))
  const handed = made.handOn(true, signal)
  const taken: Record<number, Buffer[]> = { 0: [], 2: [] }
  for (const offset of [0, 2]) {
    const reader = createSocket('udp4')
    ends.push(() => reader.close())
    reader.on('message', (packet) => packet.length > 1 && taken[offset]!.push(packet))
    reader.bind(port + offset, '127.0.0.1')
  }
  expect(await handed).toBe(true)
  made.take('video', picture(3, [0x41, 2]))
  await vi.waitFor(() => expect(taken[0]).toHaveLength(2))
  expect(taken[0]!.map((packet) => packet[1])).toEqual([0xe0, 0xe0])
  expect(taken[2]!.map((packet) => packet[1])).toEqual([97])
})

it('knows by how much the sound begins later, for hours', async () => {
  const { made } = await session()
  made.take('video', picture(90_000, [0x65, 1]))
  made.take('audio', sound(48_000))
  made.clockReport('video', { atSeconds: 100, timeStamp: 90_000 })
  made.clockReport('audio', { atSeconds: 100.25, timeStamp: 48_000 })
  expect(made.sound()).toEqual({ beginsLaterSeconds: 0.25, channels: 2 })
  for (let hours = 1; hours <= 48; hours += 1) {
    const later = hours * 3600
    const ticks = (rate: number): number => (rate + later * rate) % 2 ** 32
    made.clockReport('video', { atSeconds: 100 + later, timeStamp: ticks(90_000) })
    made.clockReport('audio', { atSeconds: 100.25 + later, timeStamp: ticks(48_000) })
    expect(made.sound().beginsLaterSeconds).toBeCloseTo(0.25, 6)
  }
})

it('describes itself with the parameters that an offer brought', () => {
  const described = sessionDescription(5000, { hasSound: true, parameterSets: 'Z0IACg==,aM4=' })
  expect(described).toMatch(
    /m=video 5000 .*\r\n.*\r\na=fmtp:96 .*sprop-parameter-sets=Z0IACg==,aM4=/,
  )
  expect(described).toMatch(/m=audio 5002 /)
  expect(sessionDescription(5000, { hasSound: false, parameterSets: '' })).not.toMatch(
    /audio|sprop/,
  )
})
