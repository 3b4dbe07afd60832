import { createServer, type Server, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import fc from 'fast-check'
import { afterEach, describe, expect, it } from 'vitest'
import { ownPrograms } from '../programs/programsForTests'
import { publishOverWhip } from './whipPublisher'
import { runsOf } from '../../tests/tier'

const key = 'a-key-that-is-nowhere-else'
const servers: Server[] = []
afterEach(() => {
  for (const server of servers.splice(0)) {
    server.closeAllConnections()
    server.close()
  }
})

/** An ingest that reads an offer, and then says what it likes. */
async function ingest(says: (response: ServerResponse, offer: string) => void): Promise<string> {
  const server = createServer((request, response) => {
    let offer = ''
    request.on('data', (piece: Buffer) => (offer += piece.toString()))
    request.on('end', () => says(response, offer))
  }).listen(0, '127.0.0.1')
  servers.push(server)
  await new Promise((resolve) => server.once('listening', resolve))
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}/whip`
}
const refusal = (address: string, signal = new AbortController().signal): Promise<string> =>
  publishOverWhip(
    { address, key },
    { codec: 'opus', bitrateKbps: 96, channels: 2 },
    { kbps: 1000, signal },
  ).then(
    () => 'accepted',
    (error: unknown) => (error as Error).message,
  )
const answers = (body: string, headers: Record<string, string> = {}) =>
  ingest((response) =>
    response.writeHead(201, { 'content-type': 'application/sdp', ...headers }).end(body),
  )

const nobodysAnswer = [
  ...['v=0', 'o=- 1 1 IN IP4 0.0.0.0', 's=-', 't=0 0', 'a=group:BUNDLE 0 1'],
  ...['video 9 UDP/TLS/RTP/SAVPF 96', 'audio 9 UDP/TLS/RTP/SAVPF 97'].flatMap((media, index) => [
    ...[`m=${media}`, 'c=IN IP4 0.0.0.0', 'a=ice-ufrag:abcd', `a=ice-pwd:${'p'.repeat(22)}`],
    ...[`a=fingerprint:sha-256 ${Array.from({ length: 32 }, () => '00').join(':')}`],
    ...['a=setup:active', 'a=recvonly', `a=mid:${index}`, 'a=rtcp-mux'],
    index === 0 ? 'a=rtpmap:96 H264/90000' : 'a=rtpmap:97 opus/48000/2',
  ]),
  '',
].join('\r\n')

describe('an ingest over WHIP', () => {
  it.each([
    [401, /does not take the key/],
    [403, /does not take the key/],
    [404, /knows no such address/],
    [409, /another program sends there/],
    [500, /it answered 500/],
    [200, /it answered 200/],
  ])('that answers %i is told in words, without the key', async (status, words) => {
    const said = await refusal(
      await ingest((response) => response.writeHead(status).end(`no: ${key}`)),
    )
    expect(said).toMatch(words)
    expect(said).not.toContain(key)
  })

  it('that answers what cannot be read is said to, whatever it is', async () => {
    const noDescription = /no session description/
    expect(await refusal(await answers(''))).toMatch(noDescription)
    expect(await refusal(await answers('v=0\r\n'.repeat(100_000)))).toMatch(noDescription)
    // An address that is none is as good as nothing said.
    expect(await refusal(await answers('v=0', { location: 'http://[' }))).toMatch(/no packet/)
    await fc.assert(
      fc.asyncProperty(fc.string({ unit: 'binary', maxLength: 300 }), async (body) => {
        const said = await refusal(await answers(body))
        expect(said).toMatch(/no session description|no packet reaches it/)
      }),
      { numRuns: runsOf(20) },
    )
  })

  it('that repeats the offer, hangs up or is none is given up, and nothing is left running', async () => {
    const repeats = await ingest((response, offer) => response.writeHead(201).end(offer))
    const stop = new AbortController()
    setTimeout(() => stop.abort(), 1500)
    expect(await refusal(repeats, stop.signal)).toMatch(/no session description|it was stopped/)
    expect(await refusal(await ingest((response) => response.destroy()))).toMatch(/nothing answers/)
    expect(await refusal('http://127.0.0.1:1/whip')).toMatch(/nothing answers at 127.0.0.1:1/)
    expect(ownPrograms().join()).not.toContain('rtcpport')
  })

  it('that took the offer is told where nothing comes of it', async () => {
    const asked: string[] = []
    const server = createServer((request, response) => {
      asked.push(`${request.method} ${request.url}`)
      request.resume()
      response.writeHead(request.method === 'POST' ? 201 : 200, { location: '/session' })
      // Somebody's answer, who is nowhere to be found.
      response.end(request.method === 'POST' ? nobodysAnswer : '')
    }).listen(0, '127.0.0.1')
    servers.push(server)
    await new Promise((resolve) => server.once('listening', resolve))
    const stop = new AbortController()
    setTimeout(() => stop.abort(), 500)
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/whip`
    expect(await refusal(address, stop.signal)).toMatch(/it was stopped|no packet reaches it/)
    expect(asked).toEqual(['POST /whip', 'DELETE /session'])
  })

  it('says what is deleted at its own origin alone, and leads nowhere else', async () => {
    const reached: string[] = []
    const elsewhere = createServer((request, response) => {
      reached.push(`${request.method} ${request.url} ${request.headers.authorization}`)
      response.writeHead(200).end()
    }).listen(0, '127.0.0.1')
    servers.push(elsewhere)
    await new Promise((resolve) => elsewhere.once('listening', resolve))
    const other = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/api/shows/one`
    const stopping = (): AbortSignal => {
      const stop = new AbortController()
      setTimeout(() => stop.abort(), 500)
      return stop.signal
    }
    const names = await answers(nobodysAnswer, { location: other })
    expect(await refusal(names, stopping())).toMatch(/it was stopped|no packet reaches it/)
    for (const status of [301, 302, 303, 307, 308]) {
      const leads = await ingest((response) =>
        response.writeHead(status, { location: other }).end(),
      )
      expect(await refusal(leads)).toMatch(/leads to another address, which is not followed/)
    }
    // A session at its own origin that is told to be elsewhere when it is deleted.
    const deleted = await ingest((response, offer) =>
      offer === ''
        ? response.writeHead(307, { location: other }).end()
        : response.writeHead(201, { location: '/session' }).end(nobodysAnswer),
    )
    expect(await refusal(deleted, stopping())).toMatch(/it was stopped|no packet reaches it/)
    expect(reached).toEqual([])
  })

  it('that never answers is stopped waiting for when the send is', async () => {
    const silent = await ingest(() => {})
    const stop = new AbortController()
    const said = refusal(silent, stop.signal)
    stop.abort()
    expect(await said).toBe('it was stopped')
  })
})
