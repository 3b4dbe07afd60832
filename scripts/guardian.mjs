// Outlives whoever started it by just as long as it takes to end what that one had running: it reads
// process groups from its standard input, one a line, and ends them when that input ends, as it does
// however its starter ends. Plain JavaScript, so that nothing else has to start first.
import { createInterface } from 'node:readline'

const graceMilliseconds = 3000
const groups = new Set()

const signal = (group, name) => {
  try {
    process.kill(-group, name)
    return true
  } catch {
    return false
  }
}

// Only the end of its input ends it: what stops its starter is not for it.
for (const name of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(name, () => {})

const lines = createInterface({ input: process.stdin })
lines.on('line', (line) => {
  const [, word, group] = /^(watch|forget) (\d+)$/.exec(line) ?? []
  if (word === 'watch') groups.add(Number(group))
  if (word === 'forget') groups.delete(Number(group))
})
lines.on('close', () => {
  const deadline = Date.now() + graceMilliseconds
  for (const group of groups) signal(group, 'SIGTERM')
  const looking = setInterval(() => {
    for (const group of groups) if (!signal(group, 0)) groups.delete(group)
    if (groups.size > 0 && Date.now() < deadline) return
    for (const group of groups) signal(group, 'SIGKILL')
    clearInterval(looking)
    process.exit(0)
  }, 50)
})
