import { listAccounts } from '../../database/accounts/accountStore'
import { useDatabase } from '../../database/connection'
import { apiHandler } from '../../http/apiHandler'

export default apiHandler(async () => listAccounts(await useDatabase()))
