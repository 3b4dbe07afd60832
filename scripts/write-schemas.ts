import { mkdirSync, writeFileSync } from 'node:fs'
import {
  dressingFileJsonSchema,
  dressingFileVersion,
  nightFileJsonSchema,
  nightFileVersion,
  profileFileJsonSchema,
  profileFileVersion,
  showFileJsonSchema,
  showFileVersion,
  wrapUpFileJsonSchema,
  wrapUpFileVersion,
} from '@green-mantle/core/formats'
import { root } from './paths'

/** Writes the published JSON Schemas from the schemas that the application checks with. */
const folder = `${root}/public/schemas`
mkdirSync(folder, { recursive: true })
const schemas = {
  [`show-${showFileVersion}`]: showFileJsonSchema(),
  [`dressing-${dressingFileVersion}`]: dressingFileJsonSchema(),
  [`night-${nightFileVersion}`]: nightFileJsonSchema(),
  [`wrap-up-${wrapUpFileVersion}`]: wrapUpFileJsonSchema(),
  [`destination-profile-${profileFileVersion}`]: profileFileJsonSchema(),
}
for (const [name, schema] of Object.entries(schemas))
  writeFileSync(`${folder}/${name}.schema.json`, `${JSON.stringify(schema, null, 2)}\n`)
