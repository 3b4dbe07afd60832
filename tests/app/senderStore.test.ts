import type { SenderSend, SendTarget } from '@green-mantle/core/night'
import { createPinia, setActivePinia } from 'pinia'
import { nextTick } from 'vue'
import { beforeEach, expect, it, vi } from 'vitest'
import { useLineNowStore } from '~/stores/lineNow'
import { useSenderStore } from '~/stores/sender'
import { useShowStore } from '~/stores/show'

const send = (destinationId: string, behindSeconds: number): SenderSend => ({
  ...{ key: destinationId, destinationId, name: destinationId, canvas: 'landscape' },
  ...{ isBackup: false, cannot: '', reconnects: 0, share: 1, stage: 'sending', words: '' },
  ...{ kbps: 3000, plannedKbps: 3000, sentFrames: 1, lostFrames: 0, behindSeconds },
  stillSeconds: 0,
})

function answering(target: SendTarget, behindSeconds: number): void {
  const sends = [send('one', behindSeconds), send('two', behindSeconds)]
  const sender = {
    target,
    elsewhere: false,
    missing: null,
    state: { canvases: [], sends, recordings: [], unrecorded: [] },
  }
  vi.stubGlobal('fetch', (address: string) =>
    Promise.resolve(Response.json(address.includes('stand-ins') ? [] : sender)),
  )
}

beforeEach(() => {
  setActivePinia(createPinia())
  useShowStore().$patch({ id: 'show' })
  return () => vi.unstubAllGlobals()
})

async function lineNowOf(target: SendTarget, behindSeconds: number) {
  answering(target, behindSeconds)
  const sender = useSenderStore()
  await sender.open()
  await nextTick()
  const { carriedKbps, isShort } = useLineNowStore()
  sender.close()
  await nextTick()
  expect(useLineNowStore().carriedKbps).toBeNull()
  return { carriedKbps, isShort }
}

it('tells what the line carries of what is sent for real, and whether it is short', async () => {
  expect(await lineNowOf('destinations', 0)).toEqual({ carriedKbps: 6000, isShort: false })
  expect(await lineNowOf('destinations', 3)).toEqual({ carriedKbps: 6000, isShort: true })
})

it('tells nothing of the line while it is practised with stand-ins', async () => {
  expect(await lineNowOf('stand-ins', 3)).toEqual({ carriedKbps: null, isShort: false })
})
