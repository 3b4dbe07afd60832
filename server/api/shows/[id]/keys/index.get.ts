import { useDatabase } from '../../../../database/connection'
import { listKeys } from '../../../../database/keys/keyStore'
import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { useInstallationKey } from '../../../../secrets/installationKey'

/** What is known of the keys of a show; never a key. */
export default apiHandler(async (event) =>
  listKeys(await useDatabase(), await useInstallationKey(), showIdOf(event)),
)
