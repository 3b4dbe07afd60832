import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBuild, prepareTypes } from './build'
import { binary } from './paths'
import { main, runQuietly } from './run'
import { systemPrograms } from '../server/programs/systemPrograms'
import { ensurePrograms } from './systemPackages'

interface Counts {
  passed: number
  failed: number
}

interface Check {
  name: string
  command: string
  arguments: string[]
  /** Whether it goes on beside tests that are in more of a hurry. */
  isPatient?: boolean
  /** Where the runner leaves its counts; a check without counts as one. */
  countsFile?: string
  read?: (text: string) => Counts
}

const fromVitest = (text: string): Counts => {
  const { numPassedTests, numFailedTests } = JSON.parse(text) as Record<string, number>
  return { passed: numPassedTests ?? 0, failed: numFailedTests ?? 0 }
}
const fromBrowser = (text: string): Counts => JSON.parse(text) as Counts

const npm = (name: string, script: string, isPatient = false): Check => ({
  name,
  command: 'npm',
  arguments: ['run', '--silent', script],
  isPatient,
})

function vitest(name: string, projects: readonly string[], folder: string): Check {
  const countsFile = join(folder, `${projects.join('-')}.json`)
  return {
    name,
    command: binary('vitest'),
    arguments: [
      ...['run', ...projects.flatMap((project) => ['--project', project])],
      ...['--reporter=default', '--reporter=json', `--outputFile.json=${countsFile}`],
    ],
    countsFile,
    read: fromVitest,
  }
}

async function perform(check: Check): Promise<Counts> {
  const started = Date.now()
  const { code, output } = await runQuietly(check.command, check.arguments, {
    env: { ...process.env, GREEN_MANTLE_TEST_COUNTS: check.countsFile },
    isPatient: check.isPatient,
  })
  const seconds = Math.round((Date.now() - started) / 1000)
  // Shown in one piece when it has ended, since another check may have been running beside it.
  console.log(`\n— ${check.name}, ${seconds} s\n${code === 0 ? lastLines(output) : output}`)
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

/** The end of what passed, after whatever had to be tried again for it. */
function lastLines(output: string): string {
  const lines = output.trimEnd().split('\n')
  return [
    ...lines.slice(0, -8).filter((line) => /\(retry x\d/.test(line)),
    ...lines.slice(-8),
  ].join('\n')
}

/** One after the other. */
async function inTurn(checks: readonly Check[]): Promise<Counts[]> {
  const counts: Counts[] = []
  for (const check of checks) {
    const counted = await perform(check)
    if (counted.failed > 0) console.log(`${check.name}: ${counted.failed} failed`)
    counts.push(counted)
  }
  return counts
}

/** `npm test`: everything, on what is installed where it is missing, with the counts in the last line. */
main(async () => {
  await ensurePrograms(Object.values(systemPrograms))
  await prepareTypes()
  const folder = mkdtempSync(join(tmpdir(), 'green-mantle-counts-'))
  const fromUnits = vitest('unit and app tests', ['unit', 'app'], folder)
  const fromDatabase = vitest('database tests', ['database'], folder)
  const fromPages: Check = {
    name: 'browser tests',
    command: binary('playwright'),
    arguments: ['test', '--config', 'tests/browser/playwright.config.ts'],
    countsFile: join(folder, 'browser.json'),
    read: fromBrowser,
  }
  const units = inTurn([fromUnits])
  const database = ensureBuild().then(() => inTurn([fromDatabase]))
  // What only counts needs no haste, and takes what all others leave of the processor; in two rows, so
  // that both cores have something left when the pages are through.
  const counted = database.then(() =>
    Promise.all([
      inTurn([npm('types', 'typecheck', true)]),
      inTurn([
        ...[npm('format', 'format:check'), npm('dead code', 'knip')],
        npm('lint', 'lint', true),
      ]),
    ]).then((rows) => rows.flat()),
  )
  // Pages want answers in time, so that they wait for what sends in real time.
  const pages = Promise.all([units, database]).then(() => inTurn([fromPages]))
  const all = (await Promise.all([units, database, counted, pages])).flat()
  rmSync(folder, { recursive: true, force: true })
  const passed = all.reduce((sum, counts) => sum + counts.passed, 0)
  const failed = all.reduce((sum, counts) => sum + counts.failed, 0)
  console.log(`\n${passed} passed, ${failed} failed`)
  if (failed > 0) process.exitCode = 1
})
