import { isMediaType } from '@green-mantle/core/picture'
import { fileIdSchema, shortTextSchema } from '@green-mantle/core/show'
import type { Knex } from 'knex'
import { z } from 'zod'
import { findFile, readWholeFile } from '../database/files/fileStore'
import type { NamedClip } from '../measuring/clip'
import { ProblemError } from './problem'

/** A clip that was stored before, as a request names it. */
export const storedClipSchema = z.strictObject({
  fileId: fileIdSchema,
  name: shortTextSchema.min(1),
})

/** The clip's name and contents, piece by piece. Refuses, in words, what is no video that is kept here. */
export async function requireClip(
  database: Knex,
  { fileId, name }: z.infer<typeof storedClipSchema>,
): Promise<NamedClip> {
  const file = await findFile(database, fileId)
  if (!file || !isMediaType(file.mediaType))
    throw new ProblemError({
      status: 422,
      title: 'This is no clip',
      detail: `There is no video file for “${name}”. Nothing was measured.`,
    })
  return { name, pieces: readWholeFile(database, fileId) }
}
