import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { propertySeed } from '../tests/tier'
import { prepareTypes } from './build'
import { binary, root } from './paths'
import { main, runQuietly, twoShares } from './run'
import { systemPrograms } from '../server/programs/systemPrograms'
import { ensurePrograms } from './systemPackages'

interface Counts {
  passed: number
  failed: number
  /** What failed, each with the first lines of what it failed on. */
  failures: string[]
}

interface Check {
  name: string
  command: string
  arguments: string[]
  /** Where the runner leaves its counts; a check without counts as one. */
  countsFile?: string
  read?: (text: string) => Counts
}

interface Performed extends Counts {
  name: string
  seconds: number
  processorSeconds: number
}

/** `npm run test:deep`; what tells the tiers apart stands in `tests/tier.ts`. */
const isDeep = process.argv.includes('--deep')
const folder = mkdtempSync(join(tmpdir(), 'green-mantle-counts-'))
const costsFile = join(folder, 'costs')
/** Lines of the end of an output that are kept of it. */
const endLines = 8

interface VitestReport {
  numPassedTests: number
  numFailedTests: number
  testResults: {
    name: string
    message: string
    assertionResults: { fullName: string; status: string; failureMessages: string[] }[]
  }[]
}

const firstLine = (text = ''): string => text.trim().split('\n', 1)[0] ?? ''

const fromVitest = (text: string): Counts => {
  const report = JSON.parse(text) as VitestReport
  const failures = report.testResults.flatMap(({ name, message, assertionResults }) => {
    const failed = assertionResults.filter(({ status }) => status === 'failed')
    const file = relative(root, name)
    return [
      ...(message ? [`${file}: ${firstLine(message)}`] : []),
      ...failed.map(
        ({ fullName, failureMessages }) =>
          `${file} › ${fullName}: ${firstLine(failureMessages[0])}`,
      ),
    ]
  })
  return { passed: report.numPassedTests, failed: report.numFailedTests, failures }
}
const fromBrowser = (text: string): Counts => JSON.parse(text) as Counts

const npm = (name: string, script: string): Check => ({
  name,
  command: 'npm',
  arguments: ['run', '--silent', script],
})

function vitest(name: string, ...projects: string[]): Check {
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

const browser = (name: string, project: string): Check => ({
  name,
  command: binary('playwright'),
  arguments: ['test', '--config', 'tests/browser/playwright.config.ts', '--project', project],
  countsFile: join(folder, `browser ${project}.json`),
  read: fromBrowser,
})

const checks = {
  build: npm('build', 'build:missing'),
  units: vitest('unit and app tests', 'unit', 'app'),
  realTime: vitest('tests in real time', 'real time'),
  database: vitest('database tests', 'database'),
  pages: browser('browser tests', 'pages'),
  pagesInRealTime: browser('browser tests in real time', 'real time'),
  types: npm('types', 'typecheck:prepared'),
  form: npm('format', 'format:check'),
  deadCode: npm('dead code', 'knip'),
  lint: npm('lint', 'lint'),
} satisfies Record<string, Check>

async function perform(check: Check, cores?: string): Promise<Performed> {
  const started = performance.now()
  const { code, output, processorSeconds } = await runQuietly(check.command, check.arguments, {
    env: {
      ...process.env,
      GREEN_MANTLE_TEST_TIER: isDeep ? 'deep' : 'ordinary',
      GREEN_MANTLE_TEST_COUNTS: check.countsFile,
      GREEN_MANTLE_TEST_COSTS: costsFile,
      PROPERTY_SEED: `${propertySeed}`,
    },
    cores,
  })
  const seconds = Math.round((performance.now() - started) / 1000)
  // Shown in one piece when it has ended, since another check may have been running beside it.
  console.log(`\n— ${check.name}, ${seconds} s\n${code === 0 ? lastLines(output) : output}`)
  const counts = countsOf(check, code, output)
  if (counts.failed > 0) console.log(`${check.name}: ${counts.failed} failed`)
  return { name: check.name, seconds, processorSeconds, ...counts }
}

function countsOf(check: Check, code: number, output: string): Counts {
  const itself = [`${check.name}: ${output.trimEnd().split('\n').slice(-endLines).join('\n')}`]
  const failedItself: Counts = { passed: 0, failed: 1, failures: itself }
  if (!check.countsFile || !check.read)
    return code === 0 ? { passed: 1, failed: 0, failures: [] } : failedItself
  try {
    const counts = check.read(readFileSync(check.countsFile, 'utf8'))
    // A runner that failed although no test did has failed all the same.
    return code !== 0 && counts.failed === 0 ? { ...counts, failed: 1, failures: itself } : counts
  } catch {
    return failedItself
  }
}

/** The end of what passed, after whatever had to be tried again for it. */
function lastLines(output: string): string {
  const lines = output.trimEnd().split('\n')
  return [
    ...lines.slice(0, -endLines).filter((line) => /\(retry x\d/.test(line)),
    ...lines.slice(-endLines),
  ].join('\n')
}

/** One after the other, on those cores where some are named. */
async function inTurn(own: readonly Check[], cores?: string): Promise<Performed[]> {
  const performed: Performed[] = []
  for (const check of own) performed.push(await perform(check, cores))
  return performed
}

function slowestFiles(most: number): string[] {
  if (!existsSync(costsFile)) return []
  const costs = new Map<string, number>()
  for (const line of readFileSync(costsFile, 'utf8').trim().split('\n')) {
    const { file, seconds } = JSON.parse(line) as { file: string; seconds: number }
    costs.set(file, (costs.get(file) ?? 0) + seconds)
  }
  return [...costs]
    .sort(([, a], [, b]) => b - a)
    .slice(0, most)
    .map(([file, seconds]) => `${seconds.toFixed(1).padStart(7)}  ${relative(root, file)}`)
}

/** `npm test`, with the counts in the last line. */
main(async () => {
  const started = performance.now()
  await ensurePrograms(Object.values(systemPrograms))
  await prepareTypes()
  console.log(`Properties begin with seed ${propertySeed}; PROPERTY_SEED tries another.`)
  const { build, types, lint, deadCode, form, units, database, pages } = checks
  const { realTime, pagesInRealTime } = checks
  const performed: Performed[] = []
  // The deep tier has time: what is sent in real time has every core to itself there.
  const share = isDeep ? null : twoShares()
  if (share) {
    // What is sent in real time has a core to itself, and what has no hurry the others meanwhile.
    const built = inTurn([build], share.others)
    const timed = inTurn([realTime], share.first)
    const read = built.then(() => inTurn([types, lint, deadCode, form, database], share.others))
    const shown = Promise.all([built, timed]).then(() => inTurn([pagesInRealTime], share.first))
    for (const part of [built, timed, read, shown]) performed.push(...(await part))
    performed.push(...(await inTurn([units])))
  } else
    performed.push(
      ...(await inTurn([build, realTime, pagesInRealTime, types, lint, deadCode, form])),
      ...(await inTurn([units, database])),
    )
  performed.push(...(await inTurn([pages])))

  console.log('\nSeconds of the clock and of the processor:')
  for (const { name, seconds, processorSeconds } of performed)
    console.log(
      `${String(seconds).padStart(6)} ${processorSeconds.toFixed(0).padStart(6)}  ${name}`,
    )
  const ownSeconds = performed.reduce((sum, each) => sum + each.processorSeconds, 0)
  const wallSeconds = (performance.now() - started) / 1000
  console.log(`${wallSeconds.toFixed(0).padStart(6)} ${ownSeconds.toFixed(0).padStart(6)}  in all`)
  console.log('\nThe ten dearest files of tests, in seconds of the processor:')
  for (const row of slowestFiles(10)) console.log(row)
  rmSync(folder, { recursive: true, force: true })
  // Last, since of a long output often only the end is kept.
  for (const failure of performed.flatMap(({ failures }) => failures))
    console.log(`\nFailed: ${failure}`)
  const passed = performed.reduce((sum, counts) => sum + counts.passed, 0)
  const failed = performed.reduce((sum, counts) => sum + counts.failed, 0)
  console.log(`\n${passed} passed, ${failed} failed`)
  if (failed > 0) process.exitCode = 1
})
