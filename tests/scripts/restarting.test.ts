import { spawn } from 'node:child_process'
import { expect, it, vi } from 'vitest'
import { keptRunning } from '../../scripts/restarting'

const running = (script: string) => ({ process: spawn(process.execPath, ['-e', script]) })

it('starts again what ends by itself, says so, and gives up where that does not help', async () => {
  const said = vi.spyOn(console, 'error').mockImplementation(() => {})
  const started: unknown[] = []
  await expect(
    keptRunning(
      running('process.exit(7)'),
      { name: 'The thing', again: () => Promise.resolve(running('process.exit(7)')) },
      () => false,
      (again) => started.push(again),
    ),
  ).rejects.toThrow('The thing ended by itself 4 times within a minute (code 7).')
  expect(started).toHaveLength(3)
  expect(said).toHaveBeenCalledWith('The thing ended by itself (code 7); it is started again.')
  said.mockRestore()
})

it('leaves alone what was stopped', async () => {
  const thing = running('setInterval(() => {}, 1000)')
  let isOver = false
  const kept = keptRunning(
    thing,
    { name: 'The thing', again: () => Promise.reject(new Error('never')) },
    () => isOver,
  )
  isOver = true
  thing.process.kill()
  await kept
})
