import { type ChildProcess, spawn } from 'node:child_process'
import { once } from 'node:events'
import { afterEach, expect, it } from 'vitest'
import { root } from '../../scripts/paths'
import { processFacts } from '../../scripts/processes'

const started: ChildProcess[] = []
afterEach(() => {
  for (const child of started.splice(0)) child.kill('SIGKILL')
})

const sleeping = (env: NodeJS.ProcessEnv): ChildProcess => {
  const child = spawn('sleep', ['60'], { detached: true, stdio: 'ignore', env })
  started.push(child)
  return child
}

it('the guardian ends what its starter began and was killed before it could say so, and nothing else', async () => {
  const mark = { GREEN_MANTLE_TEST_MARK: `${process.pid}` }
  const guardian = spawn(
    process.execPath,
    [`${root}/scripts/guardian.mjs`, `GREEN_MANTLE_TEST_MARK=${process.pid}`],
    { stdio: ['pipe', 'ignore', 'inherit'] },
  )
  started.push(guardian)
  const marked = sleeping(mark)
  const other = sleeping({ GREEN_MANTLE_TEST_MARK: `${process.pid}1` })
  const watched = sleeping({})
  guardian.stdin.write(`watch ${watched.pid}\n`)
  const gone = Promise.all([marked, watched].map((child) => once(child, 'exit')))
  guardian.stdin.end()
  await gone
  // Begun by a starter that was killed in the middle of it, so that it is there only now.
  const late = sleeping(mark)
  await once(late, 'exit')
  await once(guardian, 'exit')
  expect(processFacts(other.pid!)).not.toBeNull()
})
