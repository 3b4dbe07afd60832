import { request } from 'node:http'
import { meant } from '../../tests/meant'
import { createShow, type Finding, finding, type Instance, none } from './instance'

/** As a hostile page or another machine would ask: fetch sets some of these headers itself. */
function statusOf(
  address: string,
  path: string,
  headers: Record<string, string>,
  method = 'GET',
): Promise<number> {
  const { hostname, port } = new URL(address)
  return new Promise((resolve, reject) => {
    const asked = request({ hostname, port, path, method, headers }, (response) => {
      response.resume()
      response.on('end', () => resolve(response.statusCode ?? 0))
    })
    asked.on('error', reject)
    asked.end()
  })
}

/** Pages of other origins, rebound names and other ports get nothing. */
export async function web(instance: Instance): Promise<Finding[]> {
  const { address } = instance.application
  const own = new URL(address).host
  const id = await createShow(address)
  const reveal = `/api/shows/${id}/keys/longmeadow/reveal`
  const hostile: [string, Record<string, string>, string?][] = [
    ...['rebound.example', 'localhost:1', '127.0.0.1', `${own}.example`, '[::1]:80'].flatMap(
      (host): [string, Record<string, string>, string?][] => [
        ['/api/shows', { host }],
        ['/', { host }],
        [reveal, { ...meant, host }, 'POST'],
      ],
    ),
    ...['http://elsewhere.example', 'null', `https://${own}.example`].flatMap(
      (origin): [string, Record<string, string>, string?][] => [
        ['/api/shows', { host: own, origin }],
        [reveal, { ...meant, host: own, origin }, 'POST'],
      ],
    ),
    ['/api/shows', { host: own, 'sec-fetch-site': 'cross-site' }],
    [reveal, { ...meant, host: own, 'sec-fetch-site': 'cross-site' }, 'POST'],
    // As another program of this computer asks that follows an address somebody named.
    [`/api/shows/${id}`, { host: own }, 'DELETE'],
    [reveal, { host: own }, 'POST'],
  ]
  let passed = 0
  for (const [path, headers, method] of hostile) {
    const status = await statusOf(address, path, headers, method)
    if (status !== 403 && status !== 400) {
      passed += 1
      console.error('let in:', status, method ?? 'GET', path, headers)
    }
  }
  return [
    finding('web_hostile_requests', hostile.length, 'requests', ['all there are', true]),
    finding('web_let_in', passed, 'requests', none(passed)),
  ]
}
