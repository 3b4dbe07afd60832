import { execFileSync } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, afterEach, describe, expect, it, vi } from 'vitest'
import { isDeep } from '../../tests/tier'
import { within } from '../inRealTime'
import { begin, endSenders, endStandIns, testFolder, smallShow, toldOf } from './senderForTests'

afterEach(endSenders)
afterAll(endStandIns)

describe('a full disk of recordings', () => {
  it.skipIf(!isDeep)(
    'takes no send along, is said once, and is recorded to again with room',
    async ({ skip }) => {
      const small = join(testFolder(), 'small-disk')
      mkdirSync(small, { recursive: true })
      try {
        execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=400k', 'tmpfs', small], {
          stdio: 'ignore',
        })
      } catch {
        return skip('needs to be root')
      }
      try {
        const { sender, told, sendOf } = await begin(
          smallShow(),
          'test picture',
          'stand-ins',
          small,
        )
        sender.startSend('one')
        const notes = (): string[] => toldOf(told, 'noted').map(({ text }) => text)
        await vi.waitFor(() => expect(notes().join()).toMatch(/not recorded any more/), within)
        const before = (await sendOf('one')).sentFrames
        await vi.waitFor(
          async () => expect((await sendOf('one')).sentFrames).toBeGreaterThan(before + 100),
          within,
        )
        expect(await sendOf('one')).toMatchObject({ stage: 'sending', reconnects: 0 })
        expect((await sender.state()).canvases[0]?.restarts).toBe(0)
        expect(notes().filter((words) => words.includes('not recorded any more'))).toHaveLength(1)
        expect((await sender.state()).unrecorded).toHaveLength(1)

        sender.stopSend('one')
        execFileSync('mount', ['-o', 'remount,size=1g', small])
        await vi.waitFor(
          async () => expect((await sender.state()).recordings.length).toBeGreaterThan(1),
          within,
        )
        expect((await sender.state()).unrecorded).toEqual([])
        await sender.stop({ measures: false })
      } finally {
        execFileSync('umount', ['-l', small])
      }
    },
  )
})
