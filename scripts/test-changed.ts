import { execFileSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { ensureBuild } from './build'
import { binary, nativeCompiler, root } from './paths'
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

const compiled = (project: string): [string, string[]] => [
  process.execPath,
  [nativeCompiler, '--noEmit', '-p', project],
]

/**
 * `npm run test:changed [-- revision]`: what the changes since a revision (the last commit, if none
 * is named) can touch: the form of the changed files, the types of the rooms they are in, the unit
 * and app tests that reach them, and the browser tests that were changed themselves. So that a change
 * in a room of the core takes no more than a minute, some is left to `npm test`, and said.
 */
main(async () => {
  const base = process.argv[2] ?? 'HEAD'
  const changed = changedSince(base)
  const isIn = (...folders: string[]): boolean =>
    changed.some((file) => folders.some((folder) => file.startsWith(`${folder}/`)))
  const scripts = changed.filter((file) => /\.(ts|vue|mjs)$/.test(file))
  const specs = changed.filter((file) => file.endsWith('.spec.ts'))
  const checks: [string, string[]][] = []
  if (changed.length > 0)
    checks.push([binary('oxfmt'), ['--check', '--no-error-on-unmatched-pattern', ...changed]])
  if (scripts.length > 0) checks.push([binary('eslint'), ['--max-warnings', '0', ...scripts]])
  if (isIn('core')) checks.push(compiled('core'))
  if (isIn('app')) checks.push([binary('vue-tsc'), ['--noEmit', '-p', '.nuxt/tsconfig.app.json']])
  if (isIn('server')) checks.push(compiled('.nuxt/tsconfig.server.json'))
  if (isIn('scripts', 'tests', 'bench', 'demo')) checks.push(compiled('tsconfig.node.json'))
  const projects = ['unit', 'app', ...(isIn('server', 'tests/database') ? ['database'] : [])]
  // What the server does with the core it does in real time, which takes minutes.
  const isServerLeftOut =
    isIn('core') && !isIn('server', 'scripts', 'demo', 'tests/scripts', 'tests/database')
  checks.push([
    binary('vitest'),
    [
      ...['run', '--changed', base, '--passWithNoTests'],
      ...projects.flatMap((project) => ['--project', project]),
      ...(isServerLeftOut ? [`${root}/core/`, `${root}/tests/app/`] : []),
    ],
  ])
  if (specs.length > 0) {
    await ensureBuild()
    checks.push([
      binary('playwright'),
      ['test', '--config', 'tests/browser/playwright.config.ts', ...specs],
    ])
  }
  for (const [program, args] of checks) {
    const code = await run(program, args)
    if (code !== 0) throw new Error(`${program} ended with ${code}.`)
  }
  if (isServerLeftOut) console.log('Left to npm test: what the server does with the core.')
})
