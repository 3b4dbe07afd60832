import { execFileSync } from 'node:child_process'
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { type Fault, faults } from '../tests/faults'
import { prepareTypes } from './build'
import { root } from './paths'
import { main, runQuietly } from './run'

/** Of so many faults at least so many have to be found. */
const wantedShare = 0.9

/** A copy of the project in which faults may be put: files as git knows them, packages as links to ours. */
function copyOfProject(): string {
  const copy = mkdtempSync(join(tmpdir(), 'green-mantle-faults-'))
  const git = ['ls-files', '-z', '--cached', '--others', '--exclude-standard']
  const files = execFileSync('git', git, { cwd: root, encoding: 'utf8' }).split('\0')
  for (const file of files.filter(Boolean)) {
    mkdirSync(dirname(join(copy, file)), { recursive: true })
    copyFileSync(join(root, file), join(copy, file))
  }
  execFileSync('cp', ['-al', join(root, 'node_modules'), copy])
  execFileSync('cp', ['-a', join(root, '.nuxt'), copy])
  return copy
}

type Suspects = Pick<Fault, 'tests' | 'project'>

async function passes(copy: string, { tests, project }: Suspects): Promise<boolean> {
  const { code } = await runQuietly(
    join(copy, 'node_modules/.bin/vitest'),
    ['run', '--root', copy, '--project', project, '--bail', '1', ...tests],
    { env: process.env, cwd: copy },
  )
  return code === 0
}

/** Without a fault all of them pass; else whatever they find says nothing. */
async function requirePassing(copy: string): Promise<void> {
  for (const project of new Set(faults.map((each) => each.project))) {
    const own = faults.filter((each) => each.project === project)
    const tests = [...new Set(own.flatMap((each) => each.tests))]
    if (!(await passes(copy, { tests, project })))
      throw new Error(`The ${project} tests fail without any fault: ${tests.join(', ')}`)
  }
}

async function isFound(copy: string, { file, from, to, ...suspects }: Fault): Promise<boolean> {
  const path = join(copy, file)
  const right = readFileSync(path, 'utf8')
  if (!right.includes(from)) throw new Error(`${file} has changed: "${from}" is not in it any more`)
  writeFileSync(
    path,
    right.replace(from, () => to),
  )
  try {
    return !(await passes(copy, suspects))
  } finally {
    writeFileSync(path, right)
  }
}

/** `npm run test:faults`: puts each listed fault into a copy of the project and looks whether tests find it. */
main(async () => {
  await prepareTypes()
  const copy = copyOfProject()
  let found = 0
  try {
    await requirePassing(copy)
    for (const fault of faults) {
      const isNoticed = await isFound(copy, fault)
      if (isNoticed) found += 1
      console.log(`${isNoticed ? 'found' : 'NOT FOUND'}: ${fault.name} (${fault.file})`)
    }
  } finally {
    rmSync(copy, { recursive: true, force: true })
  }
  console.log(`\n${found} of ${faults.length} faults found`)
  if (found < wantedShare * faults.length) process.exitCode = 1
})
