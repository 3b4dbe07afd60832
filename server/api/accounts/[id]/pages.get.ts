import { readLinkedAccount } from '../../../accounts/linkedAccount'
import { apiHandler } from '../../../http/apiHandler'

/** The pages and scheduled events of a linked account. */
export default apiHandler(async (event) => (await readLinkedAccount(event)).pages)
