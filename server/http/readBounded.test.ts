import {
  createServer,
  type IncomingMessage,
  request,
  type Server,
  type ServerResponse,
} from 'node:http'
import type { AddressInfo } from 'node:net'
import { createEvent } from 'h3'
import { afterEach, expect, it } from 'vitest'
import { BodyTooLarge, readBounded } from './readBounded'

let server: Server
afterEach(() => server.close())

/** What a server makes of a body that is sent piece by piece without its length. */
async function answerTo(pieces: readonly string[], limitBytes: number): Promise<string> {
  server = createServer((incoming: IncomingMessage, answer: ServerResponse) => {
    readBounded(createEvent(incoming, answer), limitBytes).then(
      (body) => answer.end(`read ${body.length}`),
      (error: unknown) => answer.end(error instanceof BodyTooLarge ? 'too large' : 'failed'),
    )
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  const { port } = server.address() as AddressInfo
  return new Promise((resolve, reject) => {
    const sent = request({ port, host: '127.0.0.1', method: 'POST' }, (response) => {
      let text = ''
      response.on('data', (chunk: Buffer) => (text += chunk.toString()))
      response.on('end', () => resolve(text))
    })
    sent.on('error', reject)
    for (const piece of pieces) sent.write(piece)
    sent.end()
  })
}

it('reads a body up to its limit, to the byte', async () => {
  expect(await answerTo(['x'.repeat(600), 'x'.repeat(400)], 1000)).toBe('read 1000')
  server.close()
  expect(await answerTo(['x'.repeat(600), 'x'.repeat(401)], 1000)).toBe('too large')
})

it('answers a sender of a body that says it is too large once all of it is sent', async () => {
  await answerTo([], 1000)
  const { port } = server.address() as AddressInfo
  // As browsers do it, in one piece of a length that is said; time and again, since it raced before.
  for (let time = 0; time < 20; time += 1) {
    const body = 'x'.repeat(4_000_000)
    const response = await fetch(`http://127.0.0.1:${port}/`, { method: 'POST', body })
    expect(await response.text()).toBe('too large')
  }
})

it('answers a sender that never ends, and lets go of it', async () => {
  await answerTo([], 1000)
  const { port } = server.address() as AddressInfo
  const text = await new Promise<string>((resolve, reject) => {
    const sent = request({ port, host: '127.0.0.1', method: 'POST' }, (response) => {
      let answer = ''
      response.on('data', (chunk: Buffer) => (answer += chunk.toString()))
      response.on('end', () => resolve(answer))
    })
    const piece = 'x'.repeat(10_000)
    const sending = setInterval(() => sent.write(piece), 20)
    sent.on('error', reject).on('close', () => clearInterval(sending))
  })
  expect(text).toBe('too large')
})

it('reads an empty body', async () => {
  expect(await answerTo([], 1000)).toBe('read 0')
})
