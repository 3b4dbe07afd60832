import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import type { Show, Sound } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { meant } from '../meant'
import { isDeep } from '../tier'
import { coloured, framesOf, sceneOf } from './colouredShow'
import { expect, storeShow, test } from './fixtures'
import { amplitudeIn, flashesOf, onsetsOf, soundOf } from './heardOnAir'
import { flashEverySeconds, makeDevices, madeSounds } from './madeDevices'

const camera = { ...demoShow.sources[0]!, id: 'camera', chromaKey: null }
const toneLevelDecibels = -12
const soundOfInput = (input: keyof typeof madeSounds, changes: Partial<Sound>): Sound => ({
  ...coloured.sounds[0]!,
  ...{ id: input.replace(' ', '-'), name: input, input, alsoHeardIn: [] },
  ...changes,
})
/** A camera that flashes as a click is heard, a tone in both mixes, and music in the live mix alone. */
const heard: Show = {
  ...coloured,
  title: 'Heard',
  sources: [camera],
  scenes: [
    {
      ...sceneOf('red'),
      layers: sceneOf('red').layers.map((layer) => ({ ...layer, sourceId: camera.id })),
    },
  ],
  sounds: [
    soundOfInput('Made tone', { levelDecibels: toneLevelDecibels }),
    soundOfInput('Made music', { mixes: { live: true, archive: false } }),
    soundOfInput('Made click', {}),
  ],
  recordings: coloured.recordings.map((each) => ({
    ...each,
    mix: each.canvas === 'landscape' ? 'live mix' : 'archive mix',
  })),
}
const stretchSeconds = isDeep ? 600 : 8
/**
 * How far a level may be off, of as many stretches as are no louder. On one core that is shared sound comes in
 * pieces: there it is held that what comes is at its level and in its mix; in the deep tier all the figures are.
 */
const most = isDeep ? { offDecibels: 0.5, share: 0.5 } : { offDecibels: 3, share: 0.9 }

const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1] ?? Number.NaN

// A page that was given made devices keeps them.
test.use({ ownContext: true })

test(
  'sound leaves with its picture, at the level that was set, in the mixes that it is for',
  { tag: '@real-time' },
  async ({ page, stack }) => {
    test.setTimeout(2_400_000)
    await makeDevices(page, { flashes: isDeep })
    const { id } = await storeShow(stack.application.address, heard)
    const api = (path: string, method: string, body?: object) =>
      fetch(`${stack.application.address}/api/shows/${id}${path}`, {
        ...{ method, headers: { ...meant, 'content-type': 'application/json' } },
        ...(body && { body: JSON.stringify(body) }),
      })
    const inputs = { landscape: 'on-air window', vertical: 'on-air window' }
    await api('/stand-ins', 'POST')
    expect((await api('/sender', 'POST', { target: 'stand-ins', inputs })).status).toBe(202)
    // What is shown is painted by the same core.
    await page.setViewportSize({ width: 480, height: 320 })
    await page.goto(`/shows/${id}/on-air`)
    await expect(framesOf(page)).toHaveText(/[1-9]\d* of/)
    await page.getByRole('button', { name: 'Choose a device for' }).click()
    await page.getByRole('button', { name: 'Begin the sound' }).click()
    await expect(page.getByText(/^−\d+\.\d LUFS$/).first()).toBeVisible()
    await page.waitForTimeout(stretchSeconds * 1000)
    await api('/sender', 'DELETE')

    const folder = join(stack.directory, 'recordings')
    const kept = (canvas: string): string =>
      join(
        folder,
        readdirSync(folder).find(
          (name) => name.startsWith(heard.title) && name.includes(`Kept ${canvas}`),
        )!,
      )
    const decibels = (share: number): number => 20 * Math.log10(share)
    const { 'Made tone': tone, 'Made music': music, 'Made click': click } = madeSounds
    for (const canvas of ['landscape', 'vertical'] as const) {
      const file = kept(canvas)
      const sound = soundOf(file)
      // Two seconds before the end nothing was pressed any more.
      const steady = sound.subarray(-6 * 48_000, -2 * 48_000)
      const heardDecibels = ({ hertz, amplitude }: typeof tone | typeof music): number =>
        decibels(amplitudeIn(steady, hertz, most.share) / amplitude)
      expect(Math.abs(heardDecibels(tone) - toneLevelDecibels)).toBeLessThan(most.offDecibels)
      if (canvas === 'landscape')
        expect(Math.abs(heardDecibels(music))).toBeLessThan(most.offDecibels)
      else expect(heardDecibels(music)).toBeLessThan(-40)
      if (!isDeep) continue

      const clicks = onsetsOf(sound, click.hertz, click.amplitude / 3)
      const apart = flashesOf(file).flatMap((flash) =>
        clicks
          .map((at) => at - flash)
          .filter((seconds) => Math.abs(seconds) < flashEverySeconds / 3),
      )
      expect(apart.length).toBeGreaterThan(stretchSeconds / flashEverySeconds / 2)
      // EBU R 37: sound at most 40 ms before and 60 ms after its picture.
      expect(middle(apart)).toBeGreaterThan(-0.04)
      expect(middle(apart)).toBeLessThan(0.06)
      // To within a frame the same at the end as at the beginning.
      const quarter = Math.ceil(apart.length / 4)
      const drift = middle(apart.slice(-quarter)) - middle(apart.slice(0, quarter))
      expect(Math.abs(drift)).toBeLessThan(1 / 24 + 1 / 60)
    }
  },
)
