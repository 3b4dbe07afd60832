import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBuild, prepareTypes } from './build'
import { binary } from './paths'
import { main, run } from './run'
import { ensurePrograms, systemPrograms } from './systemPackages'

interface Counts {
  passed: number
  failed: number
}

interface Check {
  name: string
  command: string
  arguments: string[]
  /** Where the runner leaves its counts; a check without counts as one. */
  countsFile?: string
  read?: (text: string) => Counts
}

const fromVitest = (text: string): Counts => {
  const { numPassedTests, numFailedTests } = JSON.parse(text) as Record<string, number>
  return { passed: numPassedTests ?? 0, failed: numFailedTests ?? 0 }
}
const fromBrowser = (text: string): Counts => JSON.parse(text) as Counts

const npm = (script: string): Pick<Check, 'command' | 'arguments'> => ({
  command: 'npm',
  arguments: ['run', '--silent', script],
})

function vitest(project: string, folder: string): Check {
  const countsFile = join(folder, `${project}.json`)
  return {
    name: `${project} tests`,
    command: binary('vitest'),
    arguments: [
      ...['run', '--project', project],
      ...['--reporter=default', '--reporter=json', `--outputFile.json=${countsFile}`],
    ],
    countsFile,
    read: fromVitest,
  }
}

async function perform(check: Check): Promise<Counts> {
  console.log(`\n— ${check.name}`)
  const code = await run(check.command, check.arguments, {
    env: { ...process.env, GREEN_MANTLE_TEST_COUNTS: check.countsFile },
  })
  if (!check.countsFile || !check.read)
    return { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1 }
  try {
    const counts = check.read(readFileSync(check.countsFile, 'utf8'))
    // A runner that failed although no test did has failed all the same.
    return {
      passed: counts.passed,
      failed: code !== 0 ? Math.max(1, counts.failed) : counts.failed,
    }
  } catch {
    return { passed: 0, failed: 1 }
  }
}

/** `npm test`: everything, on what is installed where it is missing, with the counts in the last line. */
main(async () => {
  await ensurePrograms(Object.values(systemPrograms))
  await prepareTypes()
  await ensureBuild()
  const folder = mkdtempSync(join(tmpdir(), 'green-mantle-counts-'))
  const checks: Check[] = [
    { name: 'format', ...npm('format:check') },
    { name: 'lint', ...npm('lint') },
    { name: 'types', ...npm('typecheck') },
    vitest('unit', folder),
    vitest('app', folder),
    vitest('database', folder),
    {
      name: 'browser tests',
      command: binary('playwright'),
      arguments: ['test', '--config', 'tests/browser/playwright.config.ts'],
      countsFile: join(folder, 'browser.json'),
      read: fromBrowser,
    },
  ]
  const total: Counts = { passed: 0, failed: 0 }
  for (const check of checks) {
    const { passed, failed } = await perform(check)
    if (failed > 0) console.log(`${check.name}: ${failed} failed`)
    total.passed += passed
    total.failed += failed
  }
  rmSync(folder, { recursive: true, force: true })
  console.log(`\n${total.passed} passed, ${total.failed} failed`)
  if (total.failed > 0) process.exitCode = 1
})
