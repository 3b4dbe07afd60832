import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { resolve } from 'node:path'
import type { Plugin } from 'vite'

/** Libraries of which little is used, with the index that names all of their hundreds of files. */
const indexes = {
  '@lucide/vue': '@lucide/vue/dist/esm/lucide-vue.mjs',
  'reka-ui': 'reka-ui',
} as const

/** Where something that an index exports comes from. */
interface Source {
  name: string
  file: string
}

const imports = /import\s*\{([^}]*)\}\s*from\s*['"]([^'"]+)['"];?/g
const passedOn = /export\s*\{([^}]*)\}\s*from\s*['"]([^'"]+)['"]/g
const exported = /export\s*\{([^}]*)\}(?!\s*from)/g

/** The names in `a, b as c`: what each is there, and here. */
const namesIn = (list: string): { there: string; here: string }[] =>
  list
    .split(',')
    .map((each) => each.trim())
    .filter((each) => each !== '')
    .map((each) => {
      const [there = '', here = there] = each.split(/\s+as\s+/)
      return { there, here }
    })

/** What an index exports, by name. */
export function sourcesIn(index: string, text: string): Map<string, Source> {
  const imported = new Map<string, Source>()
  const sources = new Map<string, Source>()
  const inFolder = (file: string): string => resolve(index, '..', file)
  for (const [, list = '', file = ''] of text.matchAll(imports))
    for (const { there, here } of namesIn(list))
      imported.set(here, { name: there, file: inFolder(file) })
  for (const [, list = '', file = ''] of text.matchAll(passedOn))
    for (const { there, here } of namesIn(list))
      sources.set(here, { name: there, file: inFolder(file) })
  for (const [, list = ''] of text.matchAll(exported))
    for (const { there, here } of namesIn(list)) {
      const source = imported.get(there)
      if (source) sources.set(here, source)
    }
  return sources
}

function sourcesOf(library: keyof typeof indexes): Map<string, Source> {
  const index = createRequire(import.meta.url)
    .resolve(indexes[library])
    .replace(/\.cjs$/, '.js')
  return sourcesIn(index, readFileSync(index, 'utf8'))
}

/** The same script with each thing imported from the file that it stands in; what an index makes itself is left to it. */
export const withDirectImports = (
  code: string,
  library: string,
  sources: ReadonlyMap<string, Source>,
): string =>
  code.replace(imports, (whole, list: string, from: string) => {
    if (from !== library) return whole
    const lines = namesIn(list).map(({ there, here }) => {
      const source = sources.get(there)
      return source && `import { ${source.name} as ${here} } from ${JSON.stringify(source.file)};`
    })
    return lines.every((line) => line !== undefined) ? lines.join(' ') : whole
  })

/**
 * Takes what is used of some libraries from its own files: a bundler reads all that an index names, two
 * and a half thousand files here, to leave out nearly everything again.
 */
export function directImports(): Plugin {
  const known = new Map<string, Map<string, Source>>()
  const libraries = Object.keys(indexes) as (keyof typeof indexes)[]
  return {
    name: 'direct-imports',
    apply: 'build',
    // After components and types have become plain scripts.
    enforce: 'post',
    transform: {
      filter: { code: libraries },
      handler(code) {
        let direct = code
        for (const library of libraries) {
          const sources = known.get(library) ?? sourcesOf(library)
          known.set(library, sources)
          direct = withDirectImports(direct, library, sources)
        }
        return direct === code ? undefined : { code: direct, map: null }
      },
    },
  }
}
