import { mkdirSync, writeFileSync } from 'node:fs'
import { showFileJsonSchema, showFileVersion } from '@green-mantle/core/formats'
import { root } from './paths'

/** Writes the published JSON Schemas from the schemas that the application checks with. */
const folder = `${root}/public/schemas`
mkdirSync(folder, { recursive: true })
writeFileSync(
  `${folder}/show-${showFileVersion}.schema.json`,
  `${JSON.stringify(showFileJsonSchema(), null, 2)}\n`,
)
