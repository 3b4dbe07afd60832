import { useDatabase } from '../../../../database/connection'
import { nightLinks } from '../../../../database/nights/nightLinks'
import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'

/** How many links to this night are out. */
export default apiHandler(async (event) => nightLinks(await useDatabase(), showIdOf(event)))
