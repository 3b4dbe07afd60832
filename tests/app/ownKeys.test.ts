import { afterEach, describe, expect, it } from 'vitest'
import { effectScope, nextTick } from 'vue'
import { offerCommands } from '~/commands/commands'
import {
  forgetOwnKeys,
  hasOwnKeys,
  keysFrom,
  keysOf,
  setOwnKeys,
  takenBy,
} from '~/commands/ownKeys'

const kept = 'green-mantle.keys'
const command = (id: string, keys?: string) => ({
  ...{ id, label: `Do ${id}`, group: 'Here', run: () => {} },
  ...(keys ? { keys } : {}),
})
const [mark, tick] = [command('mark', 'm'), command('tick', 'd')]
const scope = effectScope()
scope.run(() => offerCommands([mark, tick]))
afterEach(() => [mark, tick, command('gone')].forEach(forgetOwnKeys))

const pressed = (key: string, modifiers: Partial<KeyboardEventInit> = {}): string | null =>
  keysFrom(new KeyboardEvent('keydown', { key, ...modifiers }))

describe('keys of one’s own', () => {
  it('stand in place of the usual ones until they are forgotten, and are kept in the browser', async () => {
    setOwnKeys(mark, 'k')
    await nextTick()
    expect([keysOf(mark), hasOwnKeys(mark)]).toEqual(['k', true])
    expect(JSON.parse(localStorage.getItem(kept) ?? '')).toEqual({ mark: 'k' })
    forgetOwnKeys(mark)
    expect([keysOf(mark), hasOwnKeys(mark)]).toEqual(['m', false])
  })

  it('are not taken from another command, here or on another page', () => {
    expect(takenBy('d', mark)).toBe('Do tick')
    expect(takenBy('m', mark)).toBeUndefined()
    setOwnKeys(command('gone'), 'x')
    expect(takenBy('x', mark)).toBe('a command of another page')
    setOwnKeys(tick, 'c d')
    expect(takenBy('c', mark)).toBe('Do tick')
  })

  it.each(['null', '5', '[]', '{"mark":7}', '{"mark":""}'])(
    'are the usual ones where what is kept is %s',
    async (text) => {
      localStorage.setItem(kept, text)
      window.dispatchEvent(
        new StorageEvent('storage', { key: kept, newValue: text, storageArea: localStorage }),
      )
      await nextTick()
      expect(keysOf(mark)).toBe('m')
      expect(takenBy('x', mark)).toBeUndefined()
      setOwnKeys(mark, 'k')
      expect(keysOf(mark)).toBe('k')
    },
  )

  it('are written as one press, and none is what a page is got about by', () => {
    expect(pressed('k')).toBe('k')
    expect(pressed('M', { shiftKey: true })).toBe('Shift+M')
    expect(pressed('?', { shiftKey: true })).toBe('?')
    expect(pressed('ArrowUp', { altKey: true })).toBe('Alt+ArrowUp')
    expect(pressed('k', { ctrlKey: true })).toBe('$mod+k')
    for (const key of ['Shift', 'Control', 'Tab', 'Enter', 'Escape', ' '])
      expect(pressed(key)).toBeNull()
  })
})
