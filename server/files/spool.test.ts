import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { spool } from './spool'
import { makeWorkFolder, removeLeftFolders } from './workFolders'

async function* chunks(...sizes: number[]): AsyncGenerator<Buffer> {
  for (const [index, size] of sizes.entries()) yield Buffer.alloc(size, index + 1)
}
const folder = join(tmpdir(), `green-mantle-uploads-${process.pid}`)
const filesLeft = (): number => (existsSync(folder) ? readdirSync(folder).length : 0)

it('gives back what came, in pieces of a size, and leaves nothing', async () => {
  const spooled = (await spool(chunks(70_000, 3, 50_000), 200_000))!
  const whole = Buffer.concat([
    Buffer.alloc(70_000, 1),
    Buffer.alloc(3, 2),
    Buffer.alloc(50_000, 3),
  ])
  expect(spooled.byteCount).toBe(whole.length)
  expect(spooled.hash).toBe(createHash('sha256').update(whole).digest('hex'))
  const pieces: Buffer[] = []
  for await (const piece of spooled.pieces(50_000)) pieces.push(piece)
  expect(pieces.map(({ length }) => length)).toEqual([50_000, 50_000, 20_003])
  expect(Buffer.concat(pieces).equals(whole)).toBe(true)
  await spooled.remove()
  expect(filesLeft()).toBe(0)
})

it('leaves nothing of what is too large, or breaks off', async () => {
  expect(await spool(chunks(100, 101), 200)).toBeNull()
  async function* broken(): AsyncGenerator<Buffer> {
    yield Buffer.alloc(10)
    throw new Error('cut off')
  }
  await expect(spool(broken(), 200)).rejects.toThrow('cut off')
  expect(filesLeft()).toBe(0)
})

it('removes what a process left that is no more, and nothing of one that runs', async () => {
  const gone = join(tmpdir(), 'green-mantle-uploads-4194305')
  const running = join(tmpdir(), `green-mantle-uploads-${process.ppid}`)
  const goneTrial = join(tmpdir(), 'green-mantle-trial-4194305-a1B2c3')
  const own = await makeWorkFolder('trial')
  for (const each of [gone, goneTrial, running]) mkdirSync(each, { recursive: true })
  removeLeftFolders()
  expect([gone, goneTrial, running, own].map((each) => existsSync(each))).toEqual([
    false,
    false,
    true,
    true,
  ])
  rmSync(own, { recursive: true })
})
