import { type OwnPicture, ownPictureSchema } from '@green-mantle/core/show'
import type { Knex } from 'knex'
import { nanoid } from 'nanoid'
import { parsed } from '../shows/row'

/** A picture that was measured here, offered in every show. */
export interface KeptPicture {
  id: string
  picture: OwnPicture
}

interface PictureRow {
  id: string
  measured_at: string
  picture: unknown
}

/** The list is read by people; the oldest go. */
const maxKept = 50

/** All that are kept, newest first. */
export async function listPictures(database: Knex): Promise<KeptPicture[]> {
  const rows = await database<PictureRow>('own_pictures').orderBy('measured_at', 'desc')
  return rows.flatMap(({ id, picture }) => {
    const read = ownPictureSchema.safeParse(parsed(picture))
    return read.success ? [{ id, picture: read.data }] : []
  })
}

/** Keeps what was measured; resolves after commit. */
export async function keepPicture(database: Knex, picture: OwnPicture): Promise<void> {
  await database<PictureRow>('own_pictures').insert({
    id: nanoid(21),
    measured_at: picture.measuredAt,
    picture: JSON.stringify(ownPictureSchema.parse(picture)),
  })
  const old = await database<PictureRow>('own_pictures')
    .orderBy('measured_at', 'desc')
    .offset(maxKept)
    .limit(maxKept)
    .pluck('id')
  if (old.length > 0) await database<PictureRow>('own_pictures').whereIn('id', old).delete()
}

/** Removes one from the list; shows that use it keep theirs. False where there is none. */
export const removePicture = async (database: Knex, id: string): Promise<boolean> =>
  (await database<PictureRow>('own_pictures').where({ id }).delete()) > 0
