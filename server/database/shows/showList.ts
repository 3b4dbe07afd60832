import { type Line, lineSchema, type ShowList, type ShowSummary } from '@green-mantle/core/show'
import type { Knex } from 'knex'
import { groupBy } from './groupBy'
import { linesFromRows } from './lineRows'
import { parsed, type Row } from './row'
import { assemble } from './showStore'
import { type KeptSummary, keptSummaryOf, summaryColumns, summaryVersion } from './summary'

/** Where a page begins: after the show that was edited then. */
interface Cursor {
  updatedAt: Date
  id: string
}

const cursorText = ({ updatedAt, id }: Cursor): string => `${updatedAt.getTime()}_${id}`

/** null where the text is no cursor. */
export function cursorFrom(text: string): Cursor | null {
  const match = /^(\d{1,15})_([A-Za-z0-9_-]{1,40})$/.exec(text)
  return match ? { updatedAt: new Date(Number(match[1])), id: match[2] as string } : null
}

const columns = ['id', 'revision', 'updated_at', 'title', 'summary', 'summary_version']

/**
 * A page of the shows that are not deleted, the latest edited first, from what is kept of each in its
 * row. One whose summary is missing or of an older version is read whole once, and its summary kept;
 * one that can't be read is named and holds up nobody.
 */
export async function listShows(
  database: Knex,
  { limit, after = null }: { limit: number; after?: Cursor | null },
): Promise<ShowList> {
  const query = database<Row>('shows')
    .whereNull('deleted_at')
    .orderBy([
      { column: 'updated_at', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .limit(limit + 1)
    .select(columns)
  if (after) void query.whereRaw('(updated_at, id) < (?, ?)', [after.updatedAt, after.id])
  const rows = (await query) as Row[]
  const heads = rows.slice(0, limit)
  const list: ShowList = { shows: [], spoilt: [], next: null }
  for (const head of heads) {
    const summary = await summaryFrom(database, head)
    if (summary) list.shows.push(summary)
    else list.spoilt.push({ id: String(head.id), title: String(head.title) })
  }
  const last = heads.at(-1)
  if (last && rows.length > limit)
    list.next = cursorText({ updatedAt: new Date(last.updated_at as string), id: String(last.id) })
  return list
}

async function summaryFrom(database: Knex, head: Row): Promise<ShowSummary | null> {
  const kept = head.summary_version === summaryVersion ? parsed(head.summary) : null
  const summary = (kept as KeptSummary | null) ?? (await summarised(database, String(head.id)))
  return (
    summary && {
      id: String(head.id),
      revision: Number(head.revision),
      updatedAt: new Date(head.updated_at as string).toISOString(),
      ...summary,
    }
  )
}

/** Makes the summary of a show and keeps it; null where the show can't be read. */
async function summarised(database: Knex, id: string): Promise<KeptSummary | null> {
  try {
    const heads = await database<Row>('shows').where({ id })
    const [stored] = await assemble(database, heads)
    if (!stored) return null
    // Unless it was saved meanwhile, which kept a newer one; the time of the edit stays what it is.
    await database('shows')
      .where({ id, revision: stored.revision })
      .update(summaryColumns(stored.show))
    return keptSummaryOf(stored.show)
  } catch (error) {
    console.error(`The show ${id} can't be read, and is left out of the list.`, error)
    return null
  }
}

/** Lines of the shows that were edited last, so that one that was measured for another show can be used again. */
export async function listLines(
  database: Knex,
  maxShows: number,
): Promise<{ showId: string; showTitle: string; line: Line }[]> {
  const heads = await database<Row>('shows')
    .whereNull('deleted_at')
    .orderBy('updated_at', 'desc')
    .limit(maxShows)
    .select('id', 'title')
  const ids = heads.map(({ id }) => String(id))
  const rowsOf = async (table: string): Promise<Map<string, Row[]>> =>
    groupBy(
      (await database<Row>(table).whereIn('show_id', ids).orderBy('position')) as Row[],
      (row) => row.show_id,
    )
  const [lines, samples, traffic] = await Promise.all(
    ['lines', 'line_samples', 'other_traffic'].map(rowsOf),
  )
  return heads.flatMap(({ id, title }) => {
    const own = String(id)
    return linesFromRows({
      lines: lines?.get(own) ?? [],
      line_samples: samples?.get(own) ?? [],
      other_traffic: traffic?.get(own) ?? [],
    }).flatMap((line) => {
      const read = lineSchema.safeParse(line)
      return read.success ? [{ showId: own, showTitle: String(title), line: read.data }] : []
    })
  })
}
