import { execFileSync } from 'node:child_process'
import { createReadStream, existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import type { Device } from '@green-mantle/core/show'
import { afterAll, describe, expect, it } from 'vitest'
import { softwareEncoder } from './measuredEncodes'
import { efficienciesOf, makeLikenessReference, makeOriginalFrom } from './measureEfficiencies'
import { isDeep } from '../../tests/tier'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-efficiencies-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const processor = (codec: 'h264' | 'hevc', effort: 'fastest'): Device => ({
  ...{ id: 'processor', name: 'Processor', kind: 'processor' },
  ...{ plannedSharePercent: 80, sessions: null, largest: { width: 7680, height: 4320 } },
  throughputs: [{ codec, effort, megapixelsPerSecond: 100 }],
})

describe('what real encoders get out of a bit', () => {
  it('is less where less effort is made, told one by one, and ends when it is stopped', async () => {
    const stopping = new AbortController()
    const reference = (await makeLikenessReference(
      { folder, signal: stopping.signal },
      { seconds: 0.5 },
    ))!
    expect(reference.points).toHaveLength(3)
    const told: string[] = []
    for await (const known of efficienciesOf(
      processor('h264', 'fastest'),
      softwareEncoder,
      reference,
      (what) => told.push(what),
    )) {
      expect(known).toEqual([
        { codec: 'h264', effort: 'fastest', efficiency: expect.any(Number) as number },
      ])
      expect(known[0]!.efficiency).toBeGreaterThan(0.3)
      expect(known[0]!.efficiency).toBeLessThan(0.97)
    }
    expect(told).toEqual(['libx264, fastest'])

    // One that does not open has no likeness, and so no efficiency.
    const broken = efficienciesOf(
      processor('hevc', 'fastest'),
      () => ({ before: [], after: ['-c:v', 'no_such_encoder'] }),
      reference,
      () => {},
    )
    expect((await broken.next()).value).toEqual([])

    stopping.abort()
    const stopped = efficienciesOf(
      processor('h264', 'fastest'),
      softwareEncoder,
      reference,
      () => {},
    )
    expect(await stopped.next()).toEqual({ done: true, value: undefined })
    // Stopped so early it is no failure, which would lose what else was measured.
    expect(await makeLikenessReference(reference.work)).toBeNull()
  })

  it.skipIf(!isDeep)(
    'is measured by a clip of one’s own, filled into the picture, of whatever shape and rate',
    async () => {
      const work = { folder, signal: new AbortController().signal }
      const clip = (args: string[]): AsyncIterable<Buffer> => {
        const path = join(folder, 'given.mp4')
        execFileSync('ffmpeg', [...['-v', 'error', '-y', '-f', 'lavfi', '-i'], ...args, path])
        return createReadStream(path) as AsyncIterable<Buffer>
      }
      await makeOriginalFrom(clip(['testsrc2=size=360x640:rate=25:duration=1.2']), work, 0.5)
      const reference = (await makeLikenessReference(work, { isOriginalThere: true }))!
      expect(reference.points.length).toBeGreaterThanOrEqual(2)
      const said = execFileSync('ffprobe', [
        ...['-v', 'error', '-count_frames', '-show_entries', 'stream=width,height,nb_read_frames'],
        ...['-of', 'csv=p=0', reference.path],
      ])
      expect(said.toString().trim()).toBe('960,540,15')
      expect(existsSync(join(folder, 'own-clip'))).toBe(false)

      await expect(
        makeOriginalFrom(clip(['testsrc2=size=64x64:rate=25:duration=0.4']), work),
      ).rejects.toThrow(
        'This clip is 0.4 s long; what encoders get out of a bit is measured by 2 s.',
      )
      const noClip = Readable.from([Buffer.from('no clip at all')])
      await expect(makeOriginalFrom(noClip, work)).rejects.toThrow('no moving picture')
    },
  )
})
