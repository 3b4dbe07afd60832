import { useDatabase } from '../database/connection'
import { listShows } from '../database/shows/showStore'
import { apiHandler } from '../http/apiHandler'

/** Every line of every show, so that one that was measured for another show can be used again. */
export default apiHandler(async () =>
  (await listShows(await useDatabase())).flatMap(({ id, show }) =>
    show.lines.map((line) => ({ showId: id, showTitle: show.title, line })),
  ),
)
