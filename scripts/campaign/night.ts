import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { binary } from '../paths'
import { runQuietly } from '../run'
import { type Finding, finding, none } from './instance'

/** What befalls a night, and the tests that do it; each with all that the deep tier has of it. */
const attacks: Readonly<Record<string, { vitest?: string[]; browser?: string }>> = {
  'ingests that send us elsewhere': { vitest: ['server/sender/whipPublisher'] },
  'files that pretend to be films': { vitest: ['server/pictures/mediaClip', 'server/programs'] },
  'a clock set back': { vitest: ['server/sender/nightLogger', 'tests/database/nightStore'] },
  'a full recordings disk': { vitest: ['server/sender/fullDisk', 'server/sender/recordingWatch'] },
  'callers without a key': {
    vitest: ['server/listeners/srtListener', 'server/listeners/rtmpConnection'],
  },
  'a phone that reaches too far': { browser: 'a link to one night' },
  'a database away': {
    vitest: ['server/sender/nightLogger', 'tests/app/nightLogStore'],
    browser: 'with the database away a phone',
  },
  'on-air windows': { vitest: ['server/onAir', 'core/onAir/messages'] },
  'a server killed': {
    vitest: ['tests/database/underWayStore', 'server/sender/recordingLength'],
    browser: 'the server is killed in the middle of a night',
  },
}

interface Counts {
  passed: number
  failed: number
}

const projects = ['unit', 'app', 'real time', 'database'].flatMap((name) => ['--project', name])

async function counted(
  program: string,
  args: (file: string) => string[],
  read: (text: string) => Counts,
): Promise<Counts> {
  const folder = mkdtempSync(join(tmpdir(), 'green-mantle-campaign-'))
  const file = join(folder, 'counts.json')
  try {
    const env = {
      ...process.env,
      GREEN_MANTLE_TEST_TIER: 'deep',
      GREEN_MANTLE_TEST_COUNTS: file,
    }
    const { code, output } = await runQuietly(binary(program), args(file), { env })
    if (code !== 0) console.log(output)
    return read(readFileSync(file, 'utf8'))
  } catch {
    return { passed: 0, failed: 1 }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

const byVitest = (tests: readonly string[]): Promise<Counts> =>
  counted(
    'vitest',
    (file) => ['run', ...projects, '--reporter=json', `--outputFile=${file}`, ...tests],
    (text) => {
      const { numPassedTests, numFailedTests } = JSON.parse(text) as Record<string, number>
      return { passed: numPassedTests ?? 0, failed: numFailedTests ?? 0 }
    },
  )

const byBrowser = (title: string): Promise<Counts> =>
  counted(
    'playwright',
    () => ['test', '--config', 'tests/browser/playwright.config.ts', '--grep', title],
    (text) => JSON.parse(text) as Counts,
  )

/** Hostile peers, full disks, clocks and kills on the night: the tests that try them, one after the other. */
export async function night(): Promise<Finding[]> {
  const findings: Finding[] = []
  for (const [name, { vitest, browser }] of Object.entries(attacks)) {
    const counts = [
      ...(vitest ? [await byVitest(vitest)] : []),
      ...(browser ? [await byBrowser(browser)] : []),
    ]
    const sum = (of: (each: Counts) => number): number =>
      counts.reduce((total, each) => total + of(each), 0)
    const passed = sum((each) => each.passed)
    const failed = sum((each) => each.failed)
    findings.push(
      finding(`night ${name}`, passed, 'tries', ['some', passed > 0]),
      finding(`night ${name}, not withstood`, failed, 'tries', none(failed)),
    )
  }
  return findings
}
