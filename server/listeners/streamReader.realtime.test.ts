import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { reportOf } from '@green-mantle/core/arrival'
import { afterAll, expect, it } from 'vitest'
import { streamReader } from './streamReader'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-reader-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const clock = (): number => performance.now() / 1000
const readerTold = (told: string[]) =>
  streamReader({
    ...{ clock, watches: () => false },
    began: () => told.push('began'),
    ended: () => told.push('ended'),
  })

/** A transport stream of four seconds, with sound where `sound` says so. */
function stream(name: string, sound: boolean): string {
  const path = join(folder, name)
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=size=160x90:rate=30:duration=4'],
    ...(sound ? ['-f', 'lavfi', '-i', 'sine=sample_rate=48000:duration=4'] : []),
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-tune', 'zerolatency', '-g', '30'],
    ...['-pix_fmt', 'yuv420p', '-c:a', 'aac', '-pes_payload_size', '0', path],
  ])
  return path
}

/** Puts the time stamps of the sound off (ISO/IEC 13818-1, 2.4.3.7), where the packets are left as they come. */
function withSoundLaterBy(path: string, seconds: number): string {
  const bytes = readFileSync(path)
  const [packetBytes, soundStream] = [188, 0xc0]
  for (let from = 0; from < bytes.length; from += packetBytes) {
    const packet = bytes.subarray(from, from + packetBytes)
    const at = packet.indexOf(Buffer.of(0, 0, 1, soundStream))
    if ((packet[1]! & 0x40) === 0 || at < 0) continue
    const stamp = packet.subarray(at + 9, at + 14)
    const [a, b, c] = [(stamp[0]! >> 1) & 7, stamp.readUInt16BE(1) >> 1, stamp.readUInt16BE(3) >> 1]
    const ticks = a * 2 ** 30 + b * 2 ** 15 + c + Math.round(seconds * 90_000)
    stamp[0] = (stamp[0]! & 0xf1) | (Math.floor(ticks / 2 ** 30) << 1)
    stamp.writeUInt16BE(((Math.floor(ticks / 2 ** 15) % 2 ** 15) << 1) | 1, 1)
    stamp.writeUInt16BE(((ticks % 2 ** 15) << 1) | 1, 3)
  }
  const later = `${path}.later.ts`
  writeFileSync(later, bytes)
  return later
}

it('hears that sound and picture are apart, though each is stamped in good order', async () => {
  const late = async (path: string): Promise<number> => {
    const reader = readerTold([])
    await reader.read(
      () => Promise.resolve(['-re', '-i', path]),
      () => {},
    )
    return reportOf(reader.arrival(), clock())!.soundLateSeconds!
  }
  const path = stream('both.ts', true)
  const [asMade, apart] = await Promise.all([late(path), late(withSoundLaterBy(path, 0.6))])
  expect(Math.abs(asMade)).toBeLessThan(0.3)
  // What is stamped later than it comes is heard late, so that the picture it comes with is behind it.
  expect(apart - asMade).toBeCloseTo(-0.6, 1)
})

it('reads what has no sound, and tells when it begins and ends', async () => {
  const told: string[] = []
  const reader = readerTold(told)
  await reader.read(
    () => Promise.resolve(['-i', stream('silent.ts', false)]),
    () => told.push('started'),
  )
  const report = reportOf(reader.arrival(), clock())!
  expect(report.picture).toMatchObject({ codec: 'h264', width: 160, height: 90 })
  expect(report.sound).toBeNull()
  expect(told).toEqual(['started', 'began', 'ended'])
})
