import { createServer, type Server, type Socket } from 'node:net'
import fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import { publishOverRtmp } from './rtmpPublisher'
import { runsOf } from '../../tests/tier'

const key = 'a-key-that-is-nowhere-else'
const handshakeBytes = 1536
const servers: Server[] = []
afterEach(() => {
  for (const server of servers.splice(0)) server.close()
})

/** An ingest that shakes hands, and then says what it likes. */
async function ingest(says: (socket: Socket) => void): Promise<string> {
  const server = createServer((socket) => {
    let had = 0
    let isShaken = false
    socket.on('error', () => {})
    socket.on('data', (bytes: Buffer) => {
      had += bytes.length
      if (isShaken || had < 1 + handshakeBytes) return
      isShaken = true
      socket.write(Buffer.concat([Buffer.from([3]), Buffer.alloc(2 * handshakeBytes)]))
      says(socket)
    })
  })
  servers.push(server)
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return `rtmp://127.0.0.1:${(server.address() as { port: number }).port}/live`
}
const refusal = (address: string): Promise<string> =>
  publishOverRtmp({ address, key }, new AbortController().signal).then(
    () => 'accepted',
    (error: unknown) => (error as Error).message,
  )

describe('an ingest that means no good', () => {
  it('takes no memory by announcing a message without end', async () => {
    // A chunk of a command that says it is 8 MB long.
    const header = Buffer.from([3, 0, 0, 0, 0x7f, 0xff, 0xff, 20, 0, 0, 0, 0])
    const address = await ingest((socket) =>
      socket.write(Buffer.concat([header, Buffer.alloc(128)])),
    )
    expect(await refusal(address)).toBe('it does not speak RTMP')
  })

  it('is told from one that hangs up, and neither repeats the key', async () => {
    expect(await refusal(await ingest((socket) => socket.destroy()))).toMatch(/hung up|broke off/)
    const repeats = await ingest((socket) => socket.end(Buffer.from(key.repeat(3))))
    expect(await refusal(repeats)).not.toContain(key)
  })

  it('ends in words whatever it sends', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ minLength: 1, maxLength: 400 }), async (bytes) => {
        const words = await refusal(await ingest((socket) => socket.end(Buffer.from(bytes))))
        expect(words).not.toBe('accepted')
        expect(words).not.toContain(key)
      }),
      { numRuns: runsOf(100) },
    )
  })

  it('is not waited for where nothing listens', async () => {
    expect(await refusal('rtmp://127.0.0.1:1/live')).toMatch(/ECONNREFUSED/)
  })
})
