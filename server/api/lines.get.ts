import { useDatabase } from '../database/connection'
import { listLines } from '../database/shows/showList'
import { apiHandler } from '../http/apiHandler'

/** Older shows are rarely where a line is looked for. */
const maxShows = 100

export default apiHandler(async () => listLines(await useDatabase(), maxShows))
