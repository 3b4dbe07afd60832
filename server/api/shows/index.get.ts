import { getQuery } from 'h3'
import { z } from 'zod'
import { useDatabase } from '../../database/connection'
import { cursorFrom, listShows } from '../../database/shows/showList'
import { apiHandler } from '../../http/apiHandler'
import { ProblemError } from '../../http/problem'

const querySchema = z.object({
  limit: z.coerce.number().int().min(1).max(200).default(60),
  after: z.string().default(''),
})

/** The shows, page by page; `next` is where the next page goes on, as `?after=`. */
export default apiHandler(async (event) => {
  const query = querySchema.safeParse(getQuery(event))
  const after = query.success && query.data.after !== '' ? cursorFrom(query.data.after) : null
  if (!query.success || (query.data.after !== '' && !after))
    throw new ProblemError({
      status: 400,
      title: 'There is no such page of shows',
      detail: '"limit" is a number from 1 to 200, and "after" what a page gave as its "next".',
    })
  return listShows(await useDatabase(), { limit: query.data.limit, after })
})
