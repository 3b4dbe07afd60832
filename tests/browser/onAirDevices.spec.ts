import type { Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { coloured, framesOf, middleOf, sceneOf } from './colouredShow'
import { expect, storeShow, test } from './fixtures'
import { makeDevices } from './madeDevices'

const camera = { ...demoShow.sources[0]!, id: 'camera', chromaKey: null }
/** The camera in front of blue: as a plain card where it is gone, and hidden. */
const withCamera: Show = {
  ...coloured,
  sources: [...coloured.sources, camera],
  scenes: (['card', 'hidden'] as const).map((withoutDevice) => {
    const [layer] = sceneOf('blue').layers
    return {
      ...sceneOf('blue'),
      ...{ id: withoutDevice, name: `Gone: ${withoutDevice}`, withoutDevice },
      layers: [{ ...layer!, id: 'in-front', sourceId: camera.id }, layer!],
    }
  }),
}

// A page that was given made devices keeps them.
test.use({ ownContext: true })

test('a device that goes is a card or hidden, is said large, and comes back by itself', async ({
  page,
  stack,
}) => {
  const { unplug, plugIn } = await makeDevices(page)
  const { id } = await storeShow(stack.application.address, withCamera)
  await page.goto(`/shows/${id}/on-air`)
  await expect(framesOf(page)).toHaveText(/[1-9]\d* of/)
  await page.getByRole('button', { name: 'Choose a device for Bench camera' }).click()
  const middle = () => middleOf(page)
  await expect.poll(middle).toEqual(['red', 'red'])
  const gone = page.getByRole('alert').filter({ hasText: /Bench camera is gone since \d+ s/ })
  await unplug()
  await expect(gone).toBeVisible()
  await expect.poll(middle).toEqual(['grey', 'grey'])
  await page.keyboard.press('2')
  await expect.poll(middle).toEqual(['blue', 'blue'])
  await plugIn()
  await expect.poll(middle).toEqual(['red', 'red'])
  await expect(gone).toBeHidden()
  // Chosen once: a window that is opened anew has it.
  await page.reload()
  await expect.poll(middle).toEqual(['red', 'red'])
})
