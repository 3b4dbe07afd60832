import { existsSync } from 'node:fs'
import { delimiter } from 'node:path'
import { run } from './run'

/** Programs of the system and the Debian package that brings them. */
export interface SystemProgram {
  programs: readonly string[]
  debianPackage: string
}

export const systemPrograms = {
  database: {
    // The second and third are what sets a new data folder up.
    programs: ['mariadbd', 'mariadb-install-db', 'my_print_defaults'],
    debianPackage: 'mariadb-server',
  },
  // Chromium without its windows: the same pages, for a fifth less of the processor.
  browser: {
    programs: ['chromium-headless-shell'],
    debianPackage: 'chromium-headless-shell',
  },
  encoder: { programs: ['ffmpeg', 'ffprobe'], debianPackage: 'ffmpeg' },
} as const satisfies Record<string, SystemProgram>

/** Where a program is, looked for in PATH and in the folders for the system's own programs; undefined where it is missing. */
export function findProgram(program: string): string | undefined {
  const folders = [...(process.env.PATH ?? '').split(delimiter), '/usr/sbin', '/sbin', '/usr/bin']
  return folders.map((folder) => `${folder}/${program}`).find((path) => existsSync(path))
}

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
