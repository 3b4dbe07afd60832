import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { newSound, type Show, type Sound } from '../show'
import { levelOfSamples, levelShare, silenceDecibels, standInInputs, standInLevel } from './level'
import { soundChecks } from './soundChecks'

const microphone = newSound('mic', 'Lapel', 'microphone')
const computer = newSound('computer', 'Computer', 'computer sound')
const music = newSound('music', 'Bed', 'music')
function showWith(sounds: Sound[], change: (show: Show) => void = () => {}): Show {
  const show = { ...structuredClone(demoShow), sounds: structuredClone(sounds) }
  for (const destination of show.destinations) destination.on = destination.id === 'longmeadow'
  change(show)
  return show
}
const found = (show: Show) => soundChecks(show).map(({ kind, tone }) => `${tone}: ${kind}`)

describe('the sound of a show', () => {
  it('of the demo will not fail, and only says what is converted', () => {
    expect(found(demoShow)).toEqual(['note: sample rate'])
  })

  it('of a show without sound yet says nothing', () => {
    expect(found(showWith([]))).toEqual([])
  })

  it.each<[string, Sound[], string[]]>([
    [
      'one input taken twice',
      [
        { ...microphone, input: 'USB microphone' },
        { ...newSound('again', 'Voice', 'microphone'), input: 'usb Microphone' },
      ],
      ['fails: twice in one mix', 'fails: twice in one mix'],
    ],
    [
      'a sound that another carries as well, in one mix only',
      [computer, { ...music, alsoHeardIn: ['computer'] }],
      ['fails: twice in one mix'],
    ],
    [
      'the same, one of them muted',
      [{ ...computer, alsoHeardIn: ['mic'], muted: true }, microphone],
      [],
    ],
    ['two sounds without an input', [microphone, computer], []],
    ['music in mono', [microphone, { ...music, channels: 1 }], ['attention: mono by accident']],
    ['a microphone in mono', [microphone], []],
    [
      'a sound at another rate',
      [{ ...microphone, sampleRateHz: 44_100 }],
      ['attention: sample rate'],
    ],
    [
      'music that is kept without a right to',
      [microphone, { ...music, mixes: { live: true, archive: true } }],
      ['attention: music kept'],
    ],
    [
      'music that may be kept',
      [{ ...music, mixes: { live: true, archive: true }, mayBeKept: true }],
      [],
    ],
    [
      'a live mix with nothing in it',
      [{ ...microphone, mixes: { live: false, archive: true } }],
      ['fails: empty mix'],
    ],
    ['an archive mix with nothing in it', [music], ['attention: empty mix']],
    [
      'everything muted',
      [{ ...microphone, muted: true }],
      ['fails: empty mix', 'attention: empty mix'],
    ],
  ])('%s', (_, sounds, expected) => {
    expect(found(showWith(sounds))).toEqual(expected)
  })

  it('is mended by what the check offers', () => {
    const broken = showWith([
      { ...computer, channels: 1, sampleRateHz: 44_100 },
      { ...music, alsoHeardIn: ['computer'], mixes: { live: true, archive: true } },
      microphone,
    ])
    for (let turn = 0; turn < 10; turn += 1) {
      const remedy = soundChecks(broken)[0]?.remedy
      if (!remedy) break
      Object.assign(
        broken.sounds.find(({ id }) => id === remedy.soundId)!,
        remedy.changes,
      )
    }
    expect(found(broken)).toEqual([])
  })

  it.each([
    ['both', ['fails: hand-off']],
    ['neither', ['fails: hand-off']],
    ['its own microphone', ['note: hand-off']],
    ['our live mix', []],
  ] as const)('a hand-off whose program takes %s', (sound, expected) => {
    const show = showWith([microphone], ({ destinations }) => {
      for (const destination of destinations) destination.on = destination.id === 'kilnside'
      destinations.find(({ id }) => id === 'kilnside')!.handOff.sound = sound
    })
    expect(found(show)).toEqual(expected)
  })

  it('that goes out in mono though it is stereo is said', () => {
    const show = showWith([microphone, computer], ({ destinations }) => {
      destinations[0]!.renditions[0]!.audioChannels = 1
    })
    expect(found(show)).toEqual(['attention: mono by accident'])
  })
})

describe('levels', () => {
  it('of a full sine are −3 dBFS, of a full square 0, of nothing silence', () => {
    // Root mean square of a sine is 1/√2: 20 · log10(0.7071) = −3.01 dB.
    const sine = Array.from({ length: 48_000 }, (_, index) => Math.sin((index * 2 * Math.PI) / 48))
    expect(levelOfSamples(sine)).toBeCloseTo(-3.0103, 3)
    expect(levelOfSamples([1, -1, 1, -1])).toBeCloseTo(0, 9)
    expect(levelOfSamples(new Float32Array(128))).toBe(silenceDecibels)
    expect(levelOfSamples([])).toBe(silenceDecibels)
  })

  it('stand along the meter between its ends', () => {
    expect([0, -45, -90, -120, 6].map(levelShare)).toEqual([1, 0.5, 0, 0, 1])
  })

  it('of stand-ins move around what they are said to be', () => {
    for (const { name, decibels, swing } of standInInputs)
      for (let seconds = 0; seconds < 20; seconds += 0.37)
        expect(Math.abs(standInLevel(name, seconds) - decibels)).toBeLessThanOrEqual(swing)
    expect(standInLevel('nobody', 1)).toBe(silenceDecibels)
  })
})
