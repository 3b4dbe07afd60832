import { useLocalStorage } from '@vueuse/core'
import { nanoid } from 'nanoid'

const machineKey = 'green-mantle.machine'
const computerKey = 'green-mantle.browser-computer'

/** Which machine this browser runs on, as it remembers it itself; null before it was measured. */
export function browserMachine(): string | null {
  const known = localStorage.getItem(machineKey) ?? ''
  return /^[\w-]{10,40}$/.test(known) ? known : null
}

/** Likewise, remembered from now on. */
export function rememberBrowserMachine(): string {
  const id = browserMachine() ?? `browser-${nanoid(12)}`
  localStorage.setItem(machineKey, id)
  return id
}

/** What was measured of the machine that this browser runs on, as text; empty where nothing was. */
export const useMeasuredText = () => useLocalStorage(computerKey, '')

/** "Chromium 156", as far as the browser says. */
export function browserName(): string {
  const { userAgentData } = navigator as Navigator & {
    userAgentData?: { brands: { brand: string; version: string }[] }
  }
  const brand = userAgentData?.brands.find(({ brand: name }) => !/brand/i.test(name))
  return brand ? `${brand.brand} ${brand.version}` : 'A browser'
}
