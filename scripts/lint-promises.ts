import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { parse } from 'vue/compiler-sfc'
import { binary, root } from './paths'
import { main, run } from './run'

const scriptsFolder = '.nuxt/component-scripts'

/** The script of a component alone, on the lines on which it stands there. */
function scriptOf(component: string): string {
  const { script, scriptSetup } = parse(component).descriptor
  const lines = component.split('\n').map(() => '')
  for (const block of [script, scriptSetup]) {
    if (!block) continue
    const first = block.loc.start.line - 1
    block.content.split('\n').forEach((line, index) => (lines[first + index] = line))
  }
  return lines.join('\n')
}

/** Lays the scripts of all components where the rules that need types can read them as TypeScript. */
function layOutScripts(): string[] {
  rmSync(`${root}/${scriptsFolder}`, { recursive: true, force: true })
  const files = readdirSync(`${root}/app`, { recursive: true, encoding: 'utf8' })
  const scripts = files
    .filter((file) => file.endsWith('.vue'))
    .map((file) => {
      const script = `${scriptsFolder}/app/${file}.ts`
      mkdirSync(dirname(`${root}/${script}`), { recursive: true })
      writeFileSync(`${root}/${script}`, scriptOf(readFileSync(`${root}/app/${file}`, 'utf8')))
      return script
    })
  const types = {
    extends: '../tsconfig.app.json',
    // Over the folder of the components, so that what stands beside a component is found from its script.
    compilerOptions: { rootDirs: ['../..', '.'] },
    include: ['../nuxt.d.ts', 'app/**/*.ts'],
    exclude: [],
  }
  writeFileSync(`${root}/${scriptsFolder}/tsconfig.json`, JSON.stringify(types))
  return scripts
}

/**
 * A promise that nobody waits for fails unseen: two rules that need the types of everything, which
 * a compiled type checker answers in seconds. It reads no components, so their scripts are laid out
 * for it.
 */
main(async () => {
  const folders = ['app', 'core', 'server', 'demo', 'scripts', 'tests', 'bench']
  process.exitCode = await run(binary('oxlint'), [
    ...['--config', 'oxlint.json', '--type-aware', '--no-ignore', '--deny-warnings'],
    ...folders,
    ...layOutScripts(),
  ])
})
