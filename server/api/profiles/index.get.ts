import { useDatabase } from '../../database/connection'
import { listProfiles } from '../../database/profiles/profileStore'
import { apiHandler } from '../../http/apiHandler'

export default apiHandler(async () => listProfiles(await useDatabase()))
