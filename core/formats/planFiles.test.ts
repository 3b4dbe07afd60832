import { demoShow, plannedDemoShow } from '@green-mantle/demo'
import { Parser } from 'm3u8-parser'
import { describe, expect, it } from 'vitest'
import { type Destination, newDestination, type Rendition } from '../show'
import { readEncoderLog } from './encoderLog'
import { writeEncoderScript } from './encoderScript'
import { codecsAttribute, writeMultivariantPlaylist } from './multivariantPlaylist'
import { writePlanFile } from './planFile'

const rookery = demoShow.destinations.find(({ id }) => id === 'rookery') as Destination

describe('a ladder as a playlist', () => {
  // RFC 8216, section 4.3.4.2, read by a general HLS parser.
  it('is read by a general parser with size, codecs, rate and address of each rendition', () => {
    const parser = new Parser()
    parser.push(writeMultivariantPlaylist(rookery))
    parser.end()
    const playlists = parser.manifest.playlists ?? []
    expect(playlists.map(({ uri }) => uri)).toEqual([
      'fernhollow.m3u8',
      'fernhollow2.m3u8',
      'fernhollow3.m3u8',
    ])
    playlists.forEach(({ attributes }, index) => {
      const { width, height, videoBitrateKbps, audioBitrateKbps, framesPerSecond } =
        rookery.renditions[index]!
      expect(attributes.RESOLUTION).toEqual({ width, height })
      expect(Number(attributes['FRAME-RATE'])).toBe(framesPerSecond)
      expect(attributes.BANDWIDTH).toBeGreaterThan((videoBitrateKbps + audioBitrateKbps) * 1000)
    })
  })

  // RFC 6381 and the codecs' own bindings, from memory.
  it.each([
    [{ width: 1280, height: 720, framesPerSecond: 30, codec: 'h264' }, 'avc1.64001f,mp4a.40.2'],
    [{ width: 1920, height: 1080, framesPerSecond: 60, codec: 'h264' }, 'avc1.64002a,mp4a.40.2'],
    [
      { width: 1920, height: 1080, framesPerSecond: 60, codec: 'hevc' },
      'hvc1.1.6.L123.90,mp4a.40.2',
    ],
    [{ width: 1920, height: 1080, framesPerSecond: 60, codec: 'av1' }, 'av01.0.09M.08,mp4a.40.2'],
  ] as const)('names the codecs of %o', (changes, codecs) => {
    const [rendition] = newDestination(() => 'x', 'x', 'landscape').renditions as [Rendition]
    expect(codecsAttribute({ ...rendition, ...changes })).toBe(codecs)
  })
})

describe('files of a plan', () => {
  it('hold neither address nor key', () => {
    for (const text of [writePlanFile(demoShow), writeEncoderScript(demoShow)]) {
      expect(text).not.toMatch(/ingest\.longmeadow|flickerbrook\.example/)
      expect(text).toContain('Longmeadow')
    }
  })

  it('say where the script’s software takes the place of a graphics encoder', () => {
    const onDevice = (deviceId: string) => ({
      ...plannedDemoShow,
      recordings: [],
      destinations: plannedDemoShow.destinations.map((each) => ({
        ...each,
        renditions: each.renditions.map((one) => ({
          ...one,
          encoder: { ...one.encoder, deviceId },
        })),
      })),
    })
    const note = /It is planned on Graphics encoder; this makes it in software/g
    const script = writeEncoderScript(onDevice('desktop-graphics'))
    expect(script.match(note)).toHaveLength(3)
    expect(writeEncoderScript(onDevice('desktop-processor'))).not.toMatch(note)
  })

  it('send each of two destinations of one name once', () => {
    const [first] = plannedDemoShow.destinations as [Destination]
    const second: Destination = {
      ...first,
      id: 'second',
      renditions: first.renditions.map((one) => ({
        ...one,
        id: 'second-1',
        keyframeIntervalSeconds: 1,
      })),
    }
    const show = { ...plannedDemoShow, recordings: [], destinations: [first, second] }
    const script = writeEncoderScript(show)
    expect(script).toContain('2 encodes, 2 outputs')
    expect(script.match(/:f=flv:onfail=ignore:use_fifo=1[^\]]*\]\$LONGMEADOW_URL\b/g)).toHaveLength(
      1,
    )
    expect(
      script.match(/:f=flv:onfail=ignore:use_fifo=1[^\]]*\]\$LONGMEADOW_URL_2\b/g),
    ).toHaveLength(1)
  })

  it('sends as each destination is to be sent, as far as the program can, and says where it cannot', () => {
    const [first] = plannedDemoShow.destinations as [Destination]
    const sent = (changes: Partial<Destination['sending']>): string =>
      writeEncoderScript({
        ...plannedDemoShow,
        destinations: [{ ...first, sending: { ...first.sending, ...changes } }],
      })
    const dropping = sent({ whenBehind: 'drop', reconnectAfterSeconds: 3, reconnectTries: 7 })
    expect(dropping).toMatch(/recovery_wait_time=3:max_recovery_attempts=7:queue_size=\d+/)
    expect(dropping).not.toMatch(/FFmpeg cannot/)
    expect(sent({ whenBehind: 'lower' })).toMatch(
      /# It is planned to lower its bitrate .* FFmpeg cannot/,
    )
    // Of a file nothing is dropped.
    expect(dropping).toMatch(/f=matroska:onfail=ignore\]/)
  })

  it('say what each encode is and whom it serves', () => {
    const { format, version, plan } = JSON.parse(writePlanFile(demoShow))
    expect({ format, version }).toEqual({ format: 'green-mantle-plan', version: 1 })
    expect(plan.encodes).toHaveLength(4)
    expect(plan.sends[0]).toMatchObject({ name: 'Longmeadow', canvas: 'landscape' })
    expect(plan.encodes.at(-1).serves).toEqual(['Archive file'])
  })
})

describe('an encoder’s progress log', () => {
  // As FFmpeg 5.1 (Debian) wrote it, shortened.
  const log = `
  Stream #0:0: Video: wrapped_avframe, yuv420p, 640x360 [SAR 1:1 DAR 16:9], 60 fps
  Stream #0:0: Video: h264, yuv420p(tv, progressive), 1280x720 [SAR 1:1 DAR 16:9], q=2-31, 60 fps
frame=   40 fps=0.0 q=23.0 size=       0kB time=00:00:00.00 bitrate=N/A speed=   0x
frame=   98 fps= 90 q=28.0 size=     256kB time=00:00:01.00 bitrate=2097.2kbits/s speed=1.5x
frame=  300 fps=140 q=28.0 size=     512kB time=00:00:03.00 bitrate=1398.1kbits/s speed=2.3x
frame=  600 fps=150 q=28.0 size=    1024kB time=00:00:08.00 bitrate=1048.6kbits/s speed=2.5x\r
frame=  900 fps=152 q=28.0 size=    2048kB time=00:00:13.00 bitrate=1290.6kbits/s speed=2.5x`

  it('gives megapixels a second from the output’s size and the settled speed', () => {
    expect(readEncoderLog(log)).toEqual({
      ok: true,
      width: 1280,
      height: 720,
      framesPerSecond: 152,
      megapixelsPerSecond: expect.closeTo(1280 * 720 * 152e-6, 6),
      lines: 4,
    })
  })

  it('takes a typed size before what it says itself', () => {
    const read = readEncoderLog(log, { width: 640, height: 360 })
    expect(read.ok && read.width).toBe(640)
  })

  it.each([
    ['nothing of the kind', 'hello', /No line has frame=/],
    ['no size', 'frame=10 fps=30 speed=2x', /does not say the size/],
    [
      'speed 1, held back by a live source',
      '1280x720\nVideo: h264, 1280x720,\nframe=10 fps=30 speed=1.00x',
      /held back by a live source/,
    ],
    [
      'several encodes at once',
      'Video: h264, 1280x720, 30 fps\nVideo: h264, 640x360, 30 fps\nframe=10 fps=90 speed=3x',
      /several encodes at once/,
    ],
  ])('with %s is refused', (_, text, message) => {
    const read = readEncoderLog(text)
    expect(!read.ok && read.message).toMatch(message)
  })
})
