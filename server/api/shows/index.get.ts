import { useDatabase } from '../../database/connection'
import { listShows } from '../../database/shows/showStore'
import { apiHandler } from '../../http/apiHandler'
import { summaryOf } from '../../shows/summary'

export default apiHandler(async () => (await listShows(await useDatabase())).map(summaryOf))
