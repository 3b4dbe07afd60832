import { demoShow } from '@green-mantle/demo'
import { createShow, quantile, startInstance } from '../scripts/campaign/instance'
import type { Area } from './figure'

const showCount = 2000
const looks = 15

async function medianMilliseconds(address: string): Promise<number> {
  const times: number[] = []
  for (let look = 0; look < looks; look += 1) {
    const since = performance.now()
    await (await fetch(address)).arrayBuffer()
    times.push(performance.now() - since)
  }
  return quantile(times, 0.5)
}

/** Two thousand shows: the first page of the list, and the last, beside one of them opened in the same run. */
const area: Area = async () => {
  const instance = await startInstance(4900)
  try {
    const { address } = instance.application
    let id = ''
    for (let index = 0; index < showCount; index += 1)
      id = await createShow(address, { ...demoShow, title: `Show ${index + 1}` })
    const list = `${address}/api/shows`
    let after = ''
    for (;;) {
      const query = after === '' ? '' : `?after=${encodeURIComponent(after)}`
      const { next } = (await (await fetch(list + query)).json()) as { next: string | null }
      if (next === null) break
      after = next
    }
    const first = await medianMilliseconds(list)
    const last = await medianMilliseconds(`${list}?after=${encodeURIComponent(after)}`)
    const open = await medianMilliseconds(`${list}/${id}`)
    return [
      { name: 'first_page_of_2000', value: first, unit: 'ms' },
      { name: 'last_page_of_2000', value: last, unit: 'ms' },
      { name: 'one_show_opened', value: open, unit: 'ms' },
      { name: 'first_page_over_one_show', value: first / open, unit: 'times' },
    ]
  } finally {
    await instance.stop()
  }
}

export default area
