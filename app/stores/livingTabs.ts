const prefix = 'green-mantle.tab.'
/** Only pages that come securely have locks; the others ask each other. */
const locks = (navigator as { locks?: LockManager }).locks
const rollCall = 'BroadcastChannel' in globalThis ? new BroadcastChannel('green-mantle.tabs') : null
/** A tab that is asked answers within a moment, behind others too. */
const answerMilliseconds = 400

type Call = { asks: true } | { lives: string }

/** Makes it known to the other tabs of this browser that this one lives, for as long as it does. */
export function announceTab(name: string): void {
  rollCall?.addEventListener('message', ({ data }: MessageEvent<Call>) => {
    if ('asks' in data) rollCall?.postMessage({ lives: name } satisfies Call)
  })
  // Held until the tab goes away.
  void locks?.request(prefix + name, () => new Promise(() => {}))
}

/** The names of the other tabs that live. */
export async function livingTabs(): Promise<ReadonlySet<string>> {
  if (locks) {
    const held = (await locks.query()).held ?? []
    return new Set(held.map(({ name = '' }) => name.slice(prefix.length)))
  }
  const living = new Set<string>()
  if (!rollCall) return living
  const hear = ({ data }: MessageEvent<Call>): void => {
    if ('lives' in data) living.add(data.lives)
  }
  rollCall.addEventListener('message', hear)
  rollCall.postMessage({ asks: true } satisfies Call)
  await new Promise((resolve) => setTimeout(resolve, answerMilliseconds))
  rollCall.removeEventListener('message', hear)
  return living
}
