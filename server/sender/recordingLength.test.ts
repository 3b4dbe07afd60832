import { spawn, execFileSync } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it, vi } from 'vitest'
import { within } from '../inRealTime'
import { recordingSeconds } from './recordingLength'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-length-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const source = ['-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=24']
const encoded = ['-c:v', 'libx264', '-preset', 'ultrafast', '-g', '24', '-pix_fmt', 'yuv420p']

it('is what a file says that was closed, and up to the last packet of one that was not', async () => {
  const closed = join(folder, 'closed.mkv')
  execFileSync('ffmpeg', ['-v', 'error', ...source, '-t', '7', ...encoded, closed])
  expect(await recordingSeconds(closed)).toBeCloseTo(7, 1)

  // As the sender records: a clip of four seconds that is looped, and an encoder that is killed.
  const clip = join(folder, 'clip.mkv')
  execFileSync('ffmpeg', [
    ...['-v', 'error', ...source, '-f', 'lavfi', '-i', 'sine', '-t', '4', ...encoded],
    ...['-c:a', 'pcm_s16le', clip],
  ])
  const killed = join(folder, 'killed.mkv')
  const encoder = spawn('ffmpeg', [
    ...['-v', 'error', '-nostdin', '-stream_loop', '-1', '-i', clip, '-t', '600'],
    ...['-filter_complex', '[0:v]null[v]', '-map', '[v]', '-map', '0:a', ...encoded, '-c:a', 'aac'],
    ...['-map_metadata', '-1', '-flags', '+global_header', '-f', 'tee', `[f=matroska]${killed}`],
  ])
  const ended = once(encoder, 'exit')
  const megabyte = (): number => statSync(killed, { throwIfNoEntry: false })?.size ?? 0
  await vi.waitFor(() => expect(megabyte()).toBeGreaterThan(1_000_000), within)
  encoder.kill('SIGKILL')
  await ended
  const seconds = await recordingSeconds(killed)
  expect(seconds).toBeGreaterThan(8)

  const nothing = join(folder, 'nothing.mkv')
  execFileSync('touch', [nothing])
  expect(await recordingSeconds(nothing)).toBeNull()
})
