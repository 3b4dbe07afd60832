import type { Plugin } from 'vite'

/** Where a schema is made or narrowed: `z.string()`, `identifierSchema.nullable()`. */
const making = /(?<![\w.'"/$])(z|[a-z]\w*(?:Schema|Shape))(?=(?:\s*\.\s*\w+)*\()/g
const fromZod = /from 'zod'/

/**
 * Tells the bundler that making a schema does nothing else, which it can't see by itself: then what
 * checks nothing with a schema carries neither it nor the library behind it.
 */
export const pureSchemas = (): Plugin => ({
  name: 'pure-schemas',
  enforce: 'post',
  transform: {
    filter: { id: /\/core\/.*\.ts$/ },
    handler(code) {
      if (!fromZod.test(code.replaceAll('"', "'"))) return undefined
      return { code: code.replaceAll(making, '/* @__PURE__ */ $1'), map: null }
    },
  },
})
