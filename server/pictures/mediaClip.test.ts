import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { newShow } from '@green-mantle/core/show'
import { afterAll, describe, expect, it } from 'vitest'
import { lookAtClip } from '../measuring/clip'
import { makeMediaClip } from './mediaClip'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-media-clip-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

let last = 0
const made = newShow(() => `id-${(last += 1)}`, { startsAt: '2026-12-12T20:00', timeZone: 'UTC' })
const show = {
  ...made,
  canvasPair: { ...made.canvasPair, landscape: { width: 320, height: 180 } },
}

function film(name: string, ...more: string[]): string {
  const path = join(folder, name)
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=24:duration=1'],
    ...['-pix_fmt', 'yuv420p', '-c:v', 'libx264', '-preset', 'ultrafast', ...more, path],
  ])
  return path
}
async function* piecesOf(content: string | Buffer): AsyncGenerator<Buffer> {
  yield await Promise.resolve(Buffer.from(content))
}
const asCanvas = (content: string | Buffer): Promise<string> =>
  makeMediaClip(folder, show, 'landscape', piecesOf(content))

/** A list of films that lie elsewhere, which its first bytes hide. */
const listOf = (path: string, beginning: string): string =>
  `${beginning}<MPD xmlns="urn:mpeg:dash:schema:mpd:2011" type="static" mediaPresentationDuration="PT1S" profiles="urn:mpeg:dash:profile:isoff-on-demand:2011"><Period><AdaptationSet mimeType="video/mp4"><Representation id="1" bandwidth="100000" width="320" height="180"><BaseURL>${path}</BaseURL></Representation></AdaptationSet></Period></MPD>`

describe('a file that is to be sent as a canvas', () => {
  it.each(['film.mp4', 'film.mov', 'film.mkv'])('is taken as %s, at its size', async (name) => {
    const clip = await asCanvas(readFileSync(film(name)))
    const { signal } = new AbortController()
    expect(await lookAtClip(clip, { signal })).toMatchObject({ width: 320, height: 180 })
  })

  it('opens no other file, whatever it looks like', async () => {
    const other = film('somebody-elses.mp4', '-movflags', '+faststart+dash', '-f', 'mp4')
    const matroska = Buffer.concat([Buffer.from('1a45dfa3', 'hex'), Buffer.from('    ')])
    for (const content of [
      listOf(other, '<!--ftyp-->'),
      listOf(other, ''),
      Buffer.concat([matroska, Buffer.from(listOf(other, ''))]),
      `#EXTM3U\n#EXTINF:1,\n${other}\n`,
      `<!--ftyp-->\n#EXTM3U\n#EXTINF:1,\n${other}\n`,
      `ffconcat version 1.0\nfile ${other}\n`,
    ])
      await expect(asCanvas(content)).rejects.toMatchObject({
        details: { status: 422, detail: expect.stringMatching(/no moving picture/) as string },
      })
  })
})
