import { plannedDemoShow } from '@green-mantle/demo'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { tabbable } from 'tabbable'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { fetchShow } from '~/api/shows'
import DestinationsPage from '~/pages/shows/[id]/destinations.vue'
import FitPage from '~/pages/shows/[id]/fit.vue'
import LinePage from '~/pages/shows/[id]/line.vue'
import SoundPage from '~/pages/shows/[id]/sound.vue'
import { useShowStore } from '~/stores/show'

vi.mock('~/api/shows', async (original) => ({
  ...(await original<typeof import('~/api/shows')>()),
  fetchShow: vi.fn(),
}))
vi.mock('~/api/ask', async (original) => ({
  ...(await original<typeof import('~/api/ask')>()),
  ask: () => Promise.resolve(new Response('[]')),
}))
vi.mock('~/workers/workers', () => ({
  plannerWorker: () => ({ plan: () => Promise.resolve(), stop: () => Promise.resolve() }),
}))
// Drawn on a canvas, which is not there, and taken by no key.
vi.mock('~/components/line/UploadChart.vue', () => ({
  __esModule: true,
  default: { render: () => null },
}))
vi.mock('~/components/fit/BitsBuyChart.vue', () => ({
  __esModule: true,
  default: { render: () => null },
}))

/** What an element is called, as far as names are given here: by label, aria-label or its text. */
function nameOf(element: Element): string {
  const label =
    element.getAttribute('aria-label') ??
    (element.id && document.querySelector(`label[for="${element.id}"]`)?.textContent) ??
    ''
  return (label || element.closest('label')?.textContent || element.textContent)
    .replaceAll(/\s+/g, ' ')
    .trim()
}

async function stopsOf(page: Component): Promise<Element[]> {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:any(.*)*', component: { render: () => null } }],
  })
  mount(page, { attachTo: document.body, global: { plugins: [router] } })
  await flushPromises()
  return tabbable(document.body, { displayCheck: 'none' })
}

beforeEach(async () => {
  setActivePinia(createPinia())
  vi.mocked(fetchShow).mockResolvedValue({ show: plannedDemoShow, revision: 1 })
  await useShowStore().open('show')
})
afterEach(() => {
  document.body.replaceChildren()
})

/** Of each step some of its controls in the order in which a person works. */
const orders: [string, Component, (string | RegExp)[]][] = [
  ['Sound', SoundPage, [/^Add|^Sound/]],
  ['Line', LinePage, [/Measured upload/, /Upload, Mb\/s/, /Headroom/]],
  ['Destinations', DestinationsPage, [/^Longmeadow/, /^Flickerbrook/]],
  ['Fit', FitPage, [/Kind of picture|Picture/, /Longmeadow/]],
]

describe.each(orders)('the keyboard on %s', (_, page, order) => {
  it('reaches every control once, each with a name, in the order of the page', async () => {
    const stops = await stopsOf(page)
    expect(stops.length).toBeGreaterThan(3)
    expect(stops.filter((stop) => nameOf(stop) === '').map(({ outerHTML }) => outerHTML)).toEqual(
      [],
    )
    // A positive tabindex would break the order of the page.
    expect(stops.filter((stop) => (stop as HTMLElement).tabIndex > 0)).toEqual([])
    const names = stops.map(nameOf)
    const places = order.map((wanted) => names.findIndex((name) => name.match(wanted)))
    expect(places.every((place) => place >= 0) ? [] : names).toEqual([])
    expect([...places].sort((a, b) => a - b)).toEqual(places)
  })
})
