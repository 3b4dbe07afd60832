import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Codec, Protocol, Show } from '@green-mantle/core/show'
import { afterAll, afterEach, describe, expect, it, vi } from 'vitest'
import { arrivingAt, hangUp, standInOf } from '../standIns/platforms'
import { casesOf, isDeep } from '../../tests/tier'
import { within } from '../inRealTime'
import { ownPrograms } from '../programs/programsForTests'
import {
  begin,
  endSenders,
  endStandIns,
  testFolder,
  secret,
  smallShow,
  toldOf,
} from './senderForTests'

afterEach(endSenders)
afterAll(endStandIns)

/** The arguments of every process of this computer. */
const allArguments = (): string =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map((name) => {
      try {
        return (
          readFileSync(`/proc/${name}/cmdline`, 'utf8') +
          readFileSync(`/proc/${name}/environ`, 'utf8')
        )
      } catch {
        return ''
      }
    })
    .join('\n')

/** The small show with its two places sent to in these codecs over these protocols. */
function inNewerCodecs(...planned: readonly (readonly [Protocol, Codec])[]): Show {
  const show = smallShow()
  for (const [index, [protocol, codec]] of planned.entries()) {
    const destination = show.destinations[index]!
    destination.protocol = protocol
    destination.rules.codecs = [codec]
    destination.renditions[0]!.codec = codec
  }
  return show
}

describe('the sender', () => {
  it('sends each encode where it is asked to, comes back where one hangs up, and leaves the others alone', async () => {
    const { sender, told, sendOf } = await begin(smallShow())
    expect((await sendOf('one')).stage).toBe('ready')
    sender.startSend('one')
    await vi.waitFor(() => expect(arrivingAt('show', 'one')?.picture?.width).toBe(320), within)
    expect((await sendOf('two')).stage).toBe('ready')
    expect(arrivingAt('show', 'two')).toBeNull()
    sender.startSend('two')
    await vi.waitFor(
      async () => expect((await sendOf('two')).sentFrames).toBeGreaterThan(15),
      within,
    )
    // Neither in the arguments nor in the environment of any process.
    expect(allArguments()).not.toContain(secret)
    expect(JSON.stringify([await sender.state(), told])).not.toContain(secret)

    const before = await sendOf('two')
    hangUp('show', 'one')
    await vi.waitFor(async () => expect((await sendOf('one')).reconnects).toBe(1), within)
    await vi.waitFor(async () => {
      const after = await sendOf('two')
      expect(after.sentFrames).toBeGreaterThan(before.sentFrames + 10)
      expect(after).toMatchObject({
        stage: 'sending',
        reconnects: 0,
        lostFrames: before.lostFrames,
      })
    }, within)
    const kinds = told.map(({ kind }) => kind)
    expect(kinds.filter((kind) => kind === 'ticked')).toHaveLength(2)
    expect(kinds).toContain('trouble')
    expect(kinds.indexOf('trouble over')).toBeGreaterThan(kinds.indexOf('trouble'))
    expect(standInOf('show', 'two')?.state()).toMatchObject({ isLive: true, picture: 'there' })

    const [kept30] = await sender.keepLookBacks()
    expect(kept30).toMatch(/Small show, landscape, last 30 s, [\dT-]+\.flv$/)
    const counted = execFileSync(
      'ffprobe',
      [
        ...['-v', 'error', '-count_frames', '-select_streams', 'v', '-show_entries'],
        ...['stream=nb_read_frames,width', '-of', 'csv=p=0', kept30!],
      ],
      { encoding: 'utf8' },
    )
    // It begins with a keyframe and is decoded whole.
    expect(counted).toMatch(/^320,\d\d+\s*$/)

    sender.stopSend('two')
    await vi.waitFor(() => expect(standInOf('show', 'two')?.state().isOver).toBe(true), within)
    expect((await sendOf('one')).stage).toBe('sending')
    const [recorded] = (await sender.state()).recordings
    await sender.stop()
    // What viewers had of each, what the line carried, and what the encodes took, for the wrap-up.
    expect(toldOf(told, 'sent').find(({ destinationId }) => destinationId === 'one')).toMatchObject(
      {
        viewed: { freezes: 0, frozenSeconds: 0 },
      },
    )
    const [carried] = toldOf(told, 'carried')
    expect(carried).toMatchObject({ shortages: [] })
    expect(carried!.meanKbps).toBeGreaterThan(100)
    const [encoded] = toldOf(told, 'encoded')
    expect(encoded).toMatchObject({ canvas: 'landscape', plannedShare: null })
    expect(encoded!.processorShare).toBeGreaterThan(0)
    // Closed as it should be: its length can be read, and it runs on for all that was sent.
    const seconds = Number(
      execFileSync(
        'ffprobe',
        ['-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0', recorded!.file],
        { encoding: 'utf8' },
      ),
    )
    expect(recorded!.file).toMatch(/Small show, Archive file, [\dT-]+\.mkv$/)
    expect(allArguments()).not.toContain('from-here')
    // What each send and the recording came to is in the log.
    const sent = told.filter((each) => each.kind === 'sent')
    expect(sent.map(({ name, reconnects }) => [name, reconnects])).toEqual([
      ['Two', 0],
      ['One', 1],
    ])
    for (const { meanKbps, plannedKbps, sentFrames } of sent) {
      expect(meanKbps).toBeGreaterThan(0.2 * plannedKbps)
      expect(meanKbps).toBeLessThan(2 * plannedKbps)
      expect(sentFrames).toBeGreaterThan(20)
    }
    // It holds at least what went out meanwhile.
    expect(seconds).toBeGreaterThan(sent[0]!.sentFrames / 24 - 1)
    const [kept] = told.filter((each) => each.kind === 'recorded')
    expect(kept?.seconds).toBeCloseTo(seconds, 1)
  })

  it('keeps what a send came to that was given up, counts it anew when it begins again, and learns nothing of the line from stand-ins', async () => {
    const show = smallShow()
    const [one] = show.destinations
    const once: Show = {
      ...show,
      recordings: [],
      destinations: [{ ...one!, sending: { ...one!.sending, reconnectTries: 0 } }],
    }
    const { sender, told, sendOf } = await begin(once, 'test picture', 'stand-ins')
    sender.startSend('one')
    await vi.waitFor(
      async () => expect((await sendOf('one')).sentFrames).toBeGreaterThan(24),
      within,
    )
    hangUp('show', 'one')
    await vi.waitFor(async () => expect((await sendOf('one')).stage).toBe('given up'), within)
    const [first] = toldOf(told, 'sent')
    expect(first?.sentFrames).toBeGreaterThan(24)

    const again = Date.now()
    sender.startSend('one')
    await vi.waitFor(
      async () => expect((await sendOf('one')).sentFrames).toBeGreaterThan(0),
      within,
    )
    sender.stopSend('one')
    const sent = toldOf(told, 'sent')
    expect(sent).toHaveLength(2)
    expect(sent[1]!.seconds).toBeLessThanOrEqual((Date.now() - again) / 1000 + 0.1)
    await sender.stop()
    expect(toldOf(told, 'sent')).toHaveLength(2)
    expect(toldOf(told, 'carried')).toEqual([])
  })

  it('says why it is refused, tries as often as the plan says, and gives up', async () => {
    const show = smallShow()
    const [one] = show.destinations
    one!.rules = { ...one!.rules, key: { life: 'per session', hours: null } }
    one!.sending = { ...one!.sending, reconnectAfterSeconds: 0.5, reconnectTries: 1 }
    const { sender, told, sendOf } = await begin(show)
    standInOf('show', 'one')?.giveKey()
    sender.startSend('one')
    await vi.waitFor(async () => expect((await sendOf('one')).stage).toBe('given up'), within)
    expect((await sendOf('one')).words).toMatch(/another session/)
    expect(JSON.stringify(told)).not.toContain(secret)
  })

  it.each(['srt', 'whip'] as const)(
    'sends over %s too, with Opus, its key in no list of processes, and comes back after a hang-up',
    async (protocol) => {
      const show = smallShow()
      const [one] = show.destinations
      one!.protocol = protocol
      one!.renditions[0]!.audioCodec = 'opus'
      one!.sending.reconnectAfterSeconds = 0.5
      const { sender, told, sendOf } = await begin(show)
      sender.startSend('one')
      sender.startSend('two')
      await vi.waitFor(() => expect(arrivingAt('show', 'one')?.picture?.width).toBe(320), within)
      expect(allArguments()).toContain(protocol === 'srt' ? 'srt://127.0.0.1' : 'rtp://127.0.0.1')
      expect(allArguments()).not.toContain(secret)
      expect(JSON.stringify([await sender.state(), told])).not.toContain(secret)
      await vi.waitFor(() => expect(arrivingAt('show', 'one')?.sound?.codec).toBe('opus'), within)
      await vi.waitFor(
        async () => expect((await sendOf('one')).sentFrames).toBeGreaterThan(24),
        within,
      )
      expect((await sendOf('one')).stage).toBe('sending')
      // A computer that is late with encoding loses what the line did not.
      if (isDeep) expect((await sendOf('one')).lostFrames).toBe(0)
      // What was handed on is what arrives.
      expect((await sendOf('one')).kbps).toBeGreaterThan(150)

      const before = await sendOf('two')
      hangUp('show', 'one')
      await vi.waitFor(async () => expect((await sendOf('one')).reconnects).toBe(1), within)
      expect(toldOf(told, 'trouble')).toHaveLength(1)
      await vi.waitFor(
        async () => expect((await sendOf('two')).sentFrames).toBeGreaterThan(before.sentFrames),
        within,
      )
      expect(await sendOf('two')).toMatchObject({ stage: 'sending', reconnects: 0 })
      sender.stopSend('one')
      await vi.waitFor(() => expect(standInOf('show', 'one')?.state().isOver).toBe(true), within)
      await sender.stop()
      expect(toldOf(told, 'sent').find(({ name }) => name === 'One')).toMatchObject({
        reconnects: 1,
      })
      // The program that carried it is gone; the one that listens may wait for the next.
      await vi.waitFor(
        () => expect(ownPrograms().join('\n')).not.toMatch(/mpegts -flush_packets|rtcpport/),
        within,
      )
    },
  )

  const refusals = [
    ['srt', /stream ID or passphrase is not taken/],
    ['whip', /does not take the key/],
  ] as const
  it.each(casesOf(refusals, ([protocol]) => protocol === 'whip'))(
    'is refused over %s with a key of another session, in words without it',
    async (protocol, refusal) => {
      const show = smallShow()
      const [one] = show.destinations
      one!.protocol = protocol
      one!.rules = { ...one!.rules, key: { life: 'per session', hours: null } }
      one!.sending = { ...one!.sending, reconnectAfterSeconds: 0.5, reconnectTries: 1 }
      const { sender, told, sendOf } = await begin(show)
      standInOf('show', 'one')?.giveKey()
      sender.startSend('one')
      await vi.waitFor(async () => expect((await sendOf('one')).stage).toBe('given up'), within)
      expect(await sendOf('one')).toMatchObject({ sentFrames: 0, lostFrames: 0 })
      expect((await sendOf('one')).words).toMatch(refusal)
      expect(JSON.stringify(told)).not.toContain(secret)
    },
  )

  it('begins an encoder anew that ended, says so, and goes on sending', async () => {
    const { sender, told, sendOf } = await begin(smallShow())
    sender.startSend('one')
    await vi.waitFor(
      async () => expect((await sendOf('one')).sentFrames).toBeGreaterThan(5),
      within,
    )
    const pid = readdirSync('/proc').find((name) => {
      try {
        return readFileSync(`/proc/${name}/cmdline`, 'utf8').includes('from-here')
      } catch {
        return false
      }
    })
    process.kill(Number(pid), 'SIGKILL')
    await vi.waitFor(
      () =>
        expect(told).toContainEqual(
          expect.objectContaining({ kind: 'noted', text: expect.stringMatching(/started again/) }),
        ),
      within,
    )
    const before = (await sendOf('one')).sentFrames
    await vi.waitFor(
      async () => expect((await sendOf('one')).sentFrames).toBeGreaterThan(before + 15),
      within,
    )
    expect((await sender.state()).canvases[0]?.restarts).toBe(1)
  })

  it.each([
    [
      ['rtmp', 'hevc'],
      ['srt', 'hevc'],
    ],
    [
      ['rtmp', 'av1'],
      ['rtmp', 'av1'],
    ],
  ] as const)('sends newer codecs where they have a place: %s and %s', async (...planned) => {
    const { sender, sendOf } = await begin(inNewerCodecs(...planned))
    for (const id of ['one', 'two']) sender.startSend(id)
    for (const [index, id] of ['one', 'two'].entries()) {
      const [, codec] = planned[index]!
      await vi.waitFor(() => expect(arrivingAt('show', id)?.picture?.codec).toBe(codec), within)
      await vi.waitFor(
        async () => expect(await sendOf(id)).toMatchObject({ stage: 'sending', cannot: '' }),
        within,
      )
      await vi.waitFor(
        async () => expect((await sendOf(id)).sentFrames).toBeGreaterThan(24),
        within,
      )
      expect(arrivingAt('show', id)).toMatchObject({
        sound: { codec: 'aac', sampleRateHz: 48_000 },
      })
    }
    // One that hangs up is come back to, and the last seconds are kept in a form that is played.
    hangUp('show', 'one')
    await vi.waitFor(async () => expect((await sendOf('one')).reconnects).toBe(1), within)
    const [kept] = await sender.keepLookBacks()
    expect(kept).toMatch(/last 30 s, [\dT-]+\.mkv$/)
    const counted = execFileSync(
      'ffprobe',
      [
        ...['-v', 'error', '-count_frames', '-select_streams', 'v', '-show_entries'],
        ...['stream=codec_name,nb_read_frames', '-of', 'csv=p=0', kept!],
      ],
      { encoding: 'utf8' },
    )
    expect(counted).toMatch(new RegExp(`^${planned[0][1]},\\d\\d+\\s*$`))
  })

  it('encodes nothing for what it cannot send, and says why', async () => {
    const { sender, sendOf } = await begin(inNewerCodecs(['whip', 'hevc'], ['srt', 'av1']))
    expect((await sendOf('one')).cannot).toMatch(/HEVC does not go out over WHIP.*with H\.264/)
    expect((await sendOf('two')).cannot).toMatch(/AV1 does not go out over SRT.*H\.264 or HEVC/)
    expect([sender.startSend('one'), sender.startSend('two')]).toEqual([false, false])
    // The recording alone.
    expect((await sender.state()).canvases[0]?.encodes).toHaveLength(1)
  })

  it('plays a media file again and again, with silence where it has no sound, and refuses one of another shape', async () => {
    const make = (name: string, size: string): void =>
      void execFileSync('ffmpeg', [
        ...['-loglevel', 'error', '-nostdin', '-y', '-f', 'lavfi', '-i'],
        ...[`testsrc2=size=${size}:rate=24:duration=1`, '-c:v', 'libx264', '-pix_fmt', 'yuv420p'],
        join(testFolder(), name),
      ])
    make('wide.mp4', '640x360')
    make('square.mp4', '360x360')
    await expect(begin(smallShow(), { fileId: 'square.mp4' })).rejects.toMatchObject({
      details: { status: 422, detail: expect.stringMatching(/360×360.*distorted/) as string },
    })
    const { sender, sendOf } = await begin(smallShow(), { fileId: 'wide.mp4' })
    sender.startSend('one')
    await vi.waitFor(() => expect(arrivingAt('show', 'one')?.picture?.width).toBe(320), within)
    // Longer than the file is.
    await vi.waitFor(
      async () => expect((await sendOf('one')).sentFrames).toBeGreaterThan(40),
      within,
    )
    await sender.stop()
  })

  it('takes a canvas from the program that draws it', async () => {
    const { sender, sendOf } = await begin(smallShow(), 'own program')
    const [canvas] = (await sender.state()).canvases
    expect(canvas).toMatchObject({ isRunning: false, input: 'own program' })
    sender.startSend('one')
    const program = (await import('node:child_process')).spawn(
      'ffmpeg',
      [
        ...['-loglevel', 'error', '-re', '-f', 'lavfi', '-i', 'testsrc2=size=640x360:rate=15'],
        ...[
          '-f',
          'lavfi',
          '-i',
          'sine=sample_rate=48000',
          '-c:v',
          'libx264',
          '-preset',
          'ultrafast',
        ],
        ...['-g', '15', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-f', 'flv'],
        `${canvas!.address}/${canvas!.streamKey}`,
      ],
      { stdio: 'ignore' },
    )
    try {
      await vi.waitFor(
        async () => expect((await sendOf('one')).sentFrames).toBeGreaterThan(15),
        within,
      )
      expect(arrivingAt('show', 'one')?.picture).toMatchObject({ width: 320, height: 180 })
    } finally {
      program.kill('SIGKILL')
    }
    await vi.waitFor(
      async () => expect((await sender.state()).canvases[0]?.isRunning).toBe(false),
      within,
    )
  })
})
