import { meant } from '../../tests/meant'
import { demoShow } from '@green-mantle/demo'
import { connect } from '../../server/database/connection'
import {
  createShow,
  type Finding,
  finding,
  type Instance,
  none,
  residentMegabytes,
  under,
} from './instance'

/** A generator whose numbers are the same for the same seed (mulberry32). */
function numbersFrom(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
}

const oddValues: unknown[] = [
  null,
  -1,
  1e308,
  '',
  'x'.repeat(3000),
  '\ud83c',
  [],
  {},
  true,
  '9'.repeat(400),
  { __proto__: null, constructor: 1 },
  -0.0001,
]

/** The JSON of a show with one value changed into something odd. */
function oddShow(random: () => number): string {
  const show = structuredClone(demoShow) as unknown as Record<string, unknown>
  let at: Record<string, unknown> = show
  for (;;) {
    const names = Object.keys(at)
    const name = names[Math.floor(random() * names.length)] ?? ''
    const value = at[name]
    const isDeeper = typeof value === 'object' && value !== null && Object.keys(value).length > 0
    if (isDeeper && random() < 0.85) {
      at = value as Record<string, unknown>
      continue
    }
    // A value that is as good would be no bad input.
    // Where nothing may stand a number may often stand too, so that it gets something else.
    at[name] =
      typeof value === 'object' && value !== null
        ? 7
        : { odd: oddValues[Math.floor(random() * oddValues.length)] }
    return JSON.stringify(show)
  }
}

/** The JSON of half a character within any number of brackets. */
function deepShow(random: () => number): string {
  const depth = Math.floor(random() * 500_000)
  return `{"scenes":${'['.repeat(depth)}"\\ud83c"${']'.repeat(depth)}}`
}

type Question = [path: string, init: RequestInit]
const json = { 'content-type': 'application/json' }

function badQuestion(id: string, random: () => number): Question {
  const whole = JSON.stringify(demoShow)
  const cut = whole.slice(0, Math.floor(random() * (whole.length - 1)))
  const kinds: (() => Question)[] = [
    () => ['/api/shows', { method: 'POST', headers: json, body: oddShow(random) }],
    () => ['/api/shows', { method: 'POST', headers: json, body: cut }],
    () => ['/api/shows', { method: 'POST', headers: json, body: deepShow(random) }],
    () => ['/api/shows', { method: 'POST', headers: { 'content-type': 'text/html' }, body: whole }],
    () => [
      `/api/shows/${id}`,
      { method: 'PUT', headers: { ...json, 'if-match': '"1"' }, body: oddShow(random) },
    ],
    () => [`/api/shows/${id}`, { method: 'PUT', headers: json, body: whole }],
    () => [`/api/shows/${encodeURIComponent(`${random()}'"; DROP TABLE shows`)}`, {}],
    () => [`/api/shows?after=${encodeURIComponent(String(random()))}x`, {}],
    () => [`/api/shows?limit=${Math.floor(random() * 1e6) + 201}`, {}],
    () => [
      `/api/shows/${id}/keys/longmeadow`,
      { method: 'PUT', headers: json, body: JSON.stringify({ key: ' a b ' }) },
    ],
    () => [
      `/api/shows/${id}/keys/nowhere-${Math.floor(random() * 1e9)}`,
      { method: 'PUT', headers: json, body: '{"key":"abc"}' },
    ],
    () => [`/api/shows/${id}/keys/nowhere/reveal`, { method: 'POST' }],
    () => [
      '/api/files',
      {
        method: 'POST',
        headers: { 'content-type': 'image/svg+xml' },
        body: `<svg width="${'9'.repeat(400)}">${'<g>'.repeat(Math.floor(random() * 6000))}`,
      },
    ],
    () => [
      '/api/files',
      { method: 'POST', headers: { 'content-type': 'image/png' }, body: cut.slice(0, 2000) },
    ],
    () => [
      '/api/files',
      { method: 'POST', headers: { 'content-type': 'video/mp4' }, body: cut.slice(0, 2000) },
    ],
    () => ['/api/profiles', { method: 'POST', headers: json, body: cut.slice(0, 500) }],
    () => [
      '/api/line/measurements',
      { method: 'POST', headers: json, body: '{"durationSeconds":-1}' },
    ],
    () => [`/api/files/${'g'.repeat(64)}`, {}],
    () => [`/api/nothing/${Math.floor(random() * 1e9)}`, {}],
  ]
  return (kinds[Math.floor(random() * kinds.length)] as () => Question)()
}

async function tablesHash(url: string): Promise<string> {
  const database = connect(url)
  try {
    const [tables] = (await database.raw('SHOW TABLES')) as [Record<string, string>[]]
    const names = tables.flatMap((row) => Object.values(row))
    const [sums] = (await database.raw(
      `CHECKSUM TABLE ${names.map(() => '??').join(', ')}`,
      names,
    )) as [unknown]
    return JSON.stringify(sums)
  } finally {
    await database.destroy()
  }
}

const atOnce = 8
const lookMilliseconds = 20

/** Bad input of every kind: refused, with nothing changed by it and nobody held up. */
export async function input(
  instance: Instance,
  { count, seed = 1 }: { count: number; seed?: number },
): Promise<Finding[]> {
  const { address, process: child } = instance.application
  const id = await createShow(address)
  const before = await tablesHash(instance.mariadb.url)
  const random = numbersFrom(seed)
  const statuses = new Map<string, number>()
  let [longest, maxMegabytes, isOver, asked] = [0, 0, false, 0]
  const looking = (async () => {
    while (!isOver) {
      const since = performance.now()
      // A drawing that is answered without the database: what it waits for is the server’s own loop.
      await (await fetch(`${address}/mark.svg`)).arrayBuffer()
      longest = Math.max(longest, performance.now() - since)
      maxMegabytes = Math.max(maxMegabytes, residentMegabytes(child.pid ?? 0))
      await new Promise((resolve) => setTimeout(resolve, lookMilliseconds))
    }
  })()
  await Promise.all(
    Array.from({ length: atOnce }, async () => {
      while (asked < count) {
        asked += 1
        const [path, init] = badQuestion(id, random)
        const headers = { ...meant, ...(init.headers as Record<string, string> | undefined) }
        const kind = await fetch(address + path, { ...init, headers }).then(
          async (response) => {
            await response.text()
            return `${Math.floor(response.status / 100)}xx`
          },
          () => 'no answer',
        )
        statuses.set(kind, (statuses.get(kind) ?? 0) + 1)
      }
    }),
  )
  isOver = true
  await looking
  const refused = statuses.get('4xx') ?? 0
  const isSame = (await tablesHash(instance.mariadb.url)) === before
  return [
    finding('input_bad_inputs', asked, 'requests', ['as asked', true]),
    finding('input_not_4xx', asked - refused, 'answers', none(asked - refused)),
    finding('input_tables_changed', Number(!isSame), 'times', none(Number(!isSame))),
    finding('input_longest_wait_beside', longest, 'ms', under(longest, 200)),
    finding('input_most_memory', maxMegabytes, 'MB', under(maxMegabytes, 400)),
  ]
}
