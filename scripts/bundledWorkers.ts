import { dirname, resolve } from 'node:path'
import { build } from 'esbuild'
import type { Plugin } from 'vite'

const suffix = '.bundled'

/**
 * Gives `import code from './someWorker.bundled'` `someWorker.ts` as one script in a text, for a thread of
 * the server: its bundle is a single file, beside which nothing else is found.
 */
export const bundledWorkers = (): Plugin => ({
  name: 'bundled-workers',
  enforce: 'pre',
  resolveId(id, importer) {
    if (!id.endsWith(suffix) || !importer) return undefined
    return resolve(dirname(importer), id)
  },
  async load(id) {
    if (!id.endsWith(suffix)) return undefined
    const made = await build({
      entryPoints: [`${id.slice(0, -suffix.length)}.ts`],
      bundle: true,
      platform: 'node',
      format: 'cjs',
      target: 'node20',
      minify: true,
      write: false,
    })
    return `export default ${JSON.stringify(made.outputFiles[0]?.text ?? '')}`
  },
})
