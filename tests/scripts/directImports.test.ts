import { describe, expect, it } from 'vitest'
import { sourcesIn, withDirectImports } from '../../scripts/directImports'

const index = `
import { Field_default, useField } from "./field/Field.js";
import "./shared.js";
export { default as Plus, default as PlusIcon } from './icons/plus.mjs';
export { Field_default as Field, useField };
const own = 1;
export { own };
`
const sources = sourcesIn('/library/index.js', index)

describe('imports past the index of a library', () => {
  it('finds where each thing stands that an index passes on, and nothing that it makes itself', () => {
    expect(Object.fromEntries(sources)).toEqual({
      Plus: { name: 'default', file: '/library/icons/plus.mjs' },
      PlusIcon: { name: 'default', file: '/library/icons/plus.mjs' },
      Field: { name: 'Field_default', file: '/library/field/Field.js' },
      useField: { name: 'useField', file: '/library/field/Field.js' },
    })
  })

  it('leaves alone what comes from elsewhere, or is not known', () => {
    const direct = (code: string): string => withDirectImports(code, 'library', sources)
    expect(direct(`import { Plus as Add, useField } from 'library'; go()`)).toBe(
      'import { default as Add } from "/library/icons/plus.mjs"; import { useField as useField } from "/library/field/Field.js"; go()',
    )
    for (const other of [
      `import { Plus } from 'other';`,
      `import { Plus, own } from 'library';`,
      `import library from 'library';`,
    ])
      expect(direct(other)).toBe(other)
  })
})
