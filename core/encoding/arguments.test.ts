import { plannedDemoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { newPlanDetails, type Rendition } from '../show'
import { canvasArguments, canvasEncodesOf, escapedForList, passedOnArguments } from '.'
import { graphicsFamilies, listedGraphics } from './graphicsEncoders'
import { videoArguments } from './videoArguments'

const rendition = (changes: Partial<Rendition> = {}) => ({
  ...{ width: 1280, height: 720, framesPerSecond: 30 as const, codec: 'h264' as const },
  ...{ effort: 'fine' as const, videoBitrateKbps: 3000, keyframeIntervalSeconds: 2, bFrames: 2 },
  encoder: newPlanDetails().encoder,
  ...changes,
})
const valueOf = (args: readonly string[], option: string): string | undefined =>
  args[args.indexOf(option) + 1]

describe('the arguments of an encode', () => {
  it('ask AV1 for a largest rate above its target, without which it does not open', () => {
    const args = videoArguments(rendition({ codec: 'av1' }))
    expect(valueOf(args, '-b:v')).toBe('3000k')
    expect(valueOf(args, '-maxrate:v')).toBe('3001k')
  })

  it('keep the keyframes of encodes that start together apart', () => {
    const first = [0, 1, 2, 3].map((place) => {
      const args = videoArguments(rendition(), place)
      return args.includes('-force_key_frames') ? Number(valueOf(args, '-force_key_frames')) : 0
    })
    expect(new Set(first).size).toBe(4)
    for (const at of first) expect(at).toBeLessThan(2)
  })

  it('decode a canvas once, and encode once for all that share', () => {
    for (const canvas of canvasEncodesOf(plannedDemoShow)) {
      const args = canvasArguments(canvas, {
        input: ['-i', 'canvas'],
        archiveMix: ['-i', 'mix'],
        addressOf: ({ key }) => escapedForList(`rtmp://host/app/${key}`),
      })
      expect(args.filter((argument) => argument === 'canvas')).toHaveLength(1)
      expect(args.filter((argument) => argument === 'tee')).toHaveLength(canvas.encodes.length)
      const outputs = canvas.encodes.flatMap(({ outputs: own }) => own)
      for (const { key } of outputs) expect(args.join(' ')).toContain(`rtmp://host/app/${key}`)
    }
  })

  it('encode no picture that is passed on, but each of its sounds', () => {
    const [canvas] = canvasEncodesOf(plannedDemoShow)
    const one = { ...canvas!, encodes: canvas!.encodes.slice(0, 1) }
    const args = passedOnArguments(one, {
      ...{ input: ['-i', 'window'], archiveMix: [] },
      addressOf: ({ key }) => escapedForList(`rtmp://host/app/${key}`),
    })
    expect(valueOf(args, '-c:v')).toBe('copy')
    expect(args).not.toContain('-filter_complex')
    expect(args).toContain('-c:a:0')
    for (const { key } of one.encodes[0]!.outputs) expect(args.join(' ')).toContain(`app/${key}`)
  })

  it('hold an address together, whatever stands in it', () => {
    expect(escapedForList(`rtmp://h/a|b'c\\d`)).toBe(`rtmp://h/a\\|b\\'c\\\\d`)
  })
})

describe('graphics encoders', () => {
  it('are looked for by family and codec among what is listed', () => {
    const found = listedGraphics(new Set(['h264_nvenc', 'hevc_nvenc', 'h264_vaapi', 'libx264']))
    expect(found.map(({ family, codecs }) => [family.suffix, codecs])).toEqual([
      ['nvenc', ['h264', 'hevc']],
      ['vaapi', ['h264']],
    ])
    for (const { effortArguments } of graphicsFamilies)
      expect(Object.keys(effortArguments)).toHaveLength(5)
  })
})
