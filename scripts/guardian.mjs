// Outlives whoever started it by just as long as it takes to end what that one had running: it reads
// process groups from its standard input, one a line, and ends them when that input ends, as it does
// however its starter ends, and with them all that has the mark of its first argument in its environment.
// Plain JavaScript, so that nothing else has to start first.
import { readdirSync, readFileSync } from 'node:fs'
import { createInterface } from 'node:readline'

const graceMilliseconds = 3000
/** What was being started when its starter was killed may take so long to be there. */
const startingMilliseconds = 600
const [, , mark] = process.argv
const groups = new Set()

const signal = (group, name) => {
  try {
    process.kill(-group, name)
    return true
  } catch {
    return false
  }
}

/** The process group of a process that has the mark; null where it has none or is gone. */
function markedGroup(pid) {
  try {
    if (!readFileSync(`/proc/${pid}/environ`, 'utf8').split('\0').includes(mark)) return null
    const facts = readFileSync(`/proc/${pid}/stat`, 'utf8')
    return Number(facts.slice(facts.lastIndexOf(')') + 2).split(' ')[2])
  } catch {
    return null
  }
}

/** Ends what has the mark and was not ended yet. */
function endMarked() {
  for (const name of readdirSync('/proc')) {
    const group = /^\d+$/.test(name) ? markedGroup(name) : null
    if (group === null || groups.has(group)) continue
    groups.add(group)
    signal(group, 'SIGTERM')
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
  const began = Date.now()
  for (const group of groups) signal(group, 'SIGTERM')
  const looking = setInterval(() => {
    endMarked()
    for (const group of groups) if (!signal(group, 0)) groups.delete(group)
    const since = Date.now() - began
    if (groups.size > 0 ? since < graceMilliseconds : since < startingMilliseconds) return
    for (const group of groups) signal(group, 'SIGKILL')
    clearInterval(looking)
    process.exit(0)
  }, 50)
})
