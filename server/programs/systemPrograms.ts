import { existsSync } from 'node:fs'
import { delimiter } from 'node:path'

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
  // Part of every Debian: what ends a program with its starter, and what makes it give way.
  starting: { programs: ['setpriv'], debianPackage: 'util-linux' },
  givingWay: { programs: ['nice'], debianPackage: 'coreutils' },
  pipes: { programs: ['mkfifo'], debianPackage: 'coreutils' },
} as const satisfies Record<string, SystemProgram>

/** Where a program is, looked for in PATH and in the folders for the system's own programs; undefined where it is missing. */
export function findProgram(program: string): string | undefined {
  const folders = [
    ...(process.env.PATH ?? '').split(delimiter),
    ...['/usr/sbin', '/sbin', '/usr/bin', '/bin'],
  ]
  return folders.map((folder) => `${folder}/${program}`).find((path) => existsSync(path))
}

/** The first program of a kind that is not there, in words; undefined where all are. */
export const missingProgram = ({ programs, debianPackage }: SystemProgram): string | undefined => {
  const missing = programs.find((program) => !findProgram(program))
  return missing && `${missing} is not on this computer. Install Debian’s package ${debianPackage}.`
}
