import { execFileSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { ensureBuild } from './build'
import { binary, root } from './paths'
import { main, run } from './run'

/** Every file that differs from a revision, those included that git does not know yet. */
function changedSince(base: string): string[] {
  const git = (...args: string[]): string[] =>
    execFileSync('git', args, { cwd: root, encoding: 'utf8' }).split('\n').filter(Boolean)
  return [
    ...git('diff', '--name-only', base, '--'),
    ...git('ls-files', '--others', '--exclude-standard'),
  ].filter((file) => existsSync(`${root}/${file}`))
}

/**
 * `npm run test:changed [-- revision]`: what the changes since a revision (the last commit, if none
 * is named) can touch: the form of the changed files, the types of the rooms they are in, the unit
 * and app tests that reach them, and the browser tests that were changed themselves.
 */
main(async () => {
  const base = process.argv[2] ?? 'HEAD'
  const changed = changedSince(base)
  const isIn = (...folders: string[]): boolean =>
    changed.some((file) => folders.some((folder) => file.startsWith(`${folder}/`)))
  const scripts = changed.filter((file) => /\.(ts|vue|mjs)$/.test(file))
  const specs = changed.filter((file) => file.endsWith('.spec.ts'))
  const checks: [string, string[]][] = []
  if (changed.length > 0) checks.push(['prettier', ['--check', '--ignore-unknown', ...changed]])
  if (scripts.length > 0) checks.push(['eslint', ['--max-warnings', '0', ...scripts]])
  if (isIn('core')) checks.push(['tsc', ['-p', 'core']])
  if (isIn('app')) checks.push(['vue-tsc', ['--noEmit', '-p', '.nuxt/tsconfig.app.json']])
  if (isIn('server')) checks.push(['vue-tsc', ['--noEmit', '-p', '.nuxt/tsconfig.server.json']])
  if (isIn('scripts', 'tests', 'bench', 'demo')) checks.push(['tsc', ['-p', 'tsconfig.node.json']])
  const projects = ['unit', 'app', ...(isIn('server', 'tests/database') ? ['database'] : [])]
  checks.push([
    'vitest',
    [
      ...['run', '--changed', base, '--passWithNoTests'],
      ...projects.flatMap((project) => ['--project', project]),
    ],
  ])
  if (specs.length > 0) {
    await ensureBuild()
    checks.push([
      'playwright',
      ['test', '--config', 'tests/browser/playwright.config.ts', ...specs],
    ])
  }
  for (const [program, args] of checks) {
    const code = await run(binary(program), args)
    if (code !== 0) throw new Error(`${program} ended with ${code}.`)
  }
})
