import { findProgram, type SystemProgram } from '../server/programs/systemPrograms'
import { run } from './run'

const isMissing = ({ programs }: SystemProgram): boolean =>
  programs.some((program) => !findProgram(program))

/** Installs what is missing with apt-get where that is possible; otherwise throws with the package to install. */
export async function ensurePrograms(wantedPrograms: readonly SystemProgram[]): Promise<void> {
  const missing = wantedPrograms.filter(isMissing)
  if (missing.length === 0) return
  const packages = missing.map(({ debianPackage }) => debianPackage)
  const wanted = `Missing: ${missing.flatMap(({ programs }) => programs).join(', ')}. Install the Debian package ${packages.join(' and ')} (as root: apt-get install ${packages.join(' ')}) and start again.`
  if (process.getuid?.() !== 0 || !findProgram('apt-get')) throw new Error(wanted)
  console.log(`Installing ${packages.join(', ')} …`)
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  // The lists may be old or absent, so they are fetched first; a failure shows in the next step.
  await run('apt-get', ['update', '-qq'], { env: environment })
  const code = await run(
    'apt-get',
    ['install', '-y', '-qq', '--no-install-recommends', ...packages],
    { env: environment },
  )
  if (code !== 0 || missing.some(isMissing)) throw new Error(wanted)
}
