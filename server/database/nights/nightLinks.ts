import { createHash, randomBytes } from 'node:crypto'
import type { Knex } from 'knex'

interface LinkRow {
  token_hash: string
  show_id: string
  ends_at: Date
}

/** A night with its evening before and after; then a link is nobody's any more. */
const linkHours = 18
const maxLinks = 20

/** Of the token only this is kept: whoever reads the table can do nothing with it. */
const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex')

/** Gives out a right to one show's night; null where too many are out. */
export async function makeNightLink(
  database: Knex,
  showId: string,
  now = new Date(),
): Promise<{ token: string; endsAt: Date } | null> {
  await database<LinkRow>('night_links').where('ends_at', '<', now).delete()
  const out = await nightLinks(database, showId, now)
  if (out.count >= maxLinks) return null
  const token = randomBytes(24).toString('base64url')
  const endsAt = new Date(now.getTime() + linkHours * 3_600_000)
  await database<LinkRow>('night_links').insert({
    token_hash: hashOf(token),
    show_id: showId,
    ends_at: endsAt,
  })
  return { token, endsAt }
}

/** How many rights to a show's night are out, and when the last of them ends. */
export async function nightLinks(
  database: Knex,
  showId: string,
  now = new Date(),
): Promise<{ count: number; endsAt: Date | null }> {
  const rows = await database<LinkRow>('night_links')
    .where({ show_id: showId })
    .andWhere('ends_at', '>', now)
    .orderBy('ends_at', 'desc')
  return { count: rows.length, endsAt: rows[0] ? new Date(rows[0].ends_at) : null }
}

/** Takes all rights to a show's night back. */
export async function takeNightLinksBack(database: Knex, showId: string): Promise<void> {
  await database<LinkRow>('night_links').where({ show_id: showId }).delete()
}

/** Whether a token gives a right to this show's night now. */
export async function mayTendNight(
  database: Knex,
  showId: string,
  token: string,
  now = new Date(),
): Promise<boolean> {
  const row = await database<LinkRow>('night_links')
    .where({ token_hash: hashOf(token), show_id: showId })
    .andWhere('ends_at', '>', now)
    .first('show_id')
  return row !== undefined
}
