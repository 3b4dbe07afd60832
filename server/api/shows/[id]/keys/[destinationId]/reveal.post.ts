import { useDatabase } from '../../../../../database/connection'
import { openKey } from '../../../../../database/keys/keyStore'
import { apiHandler } from '../../../../../http/apiHandler'
import { destinationIdOf, keyNotFound } from '../../../../../http/keyRequests'
import { ProblemError } from '../../../../../http/problem'
import { showIdOf } from '../../../../../http/showRequests'
import { useInstallationKey } from '../../../../../secrets/installationKey'

/** The one place that gives a key out, to be asked on purpose: a POST, so that nothing prefetches or keeps it. */
export default apiHandler(async (event) => {
  const [showId, destinationId] = [showIdOf(event), destinationIdOf(event)]
  const opened = await openKey(
    await useDatabase(),
    await useInstallationKey(),
    showId,
    destinationId,
  )
  if (!opened) throw keyNotFound()
  if (opened.outcome === 'opened') return { key: opened.text }
  throw new ProblemError({
    status: 409,
    title:
      opened.outcome === 'damaged'
        ? 'The stored key is damaged'
        : 'The key was sealed under another key file',
    detail:
      opened.outcome === 'damaged'
        ? 'It was altered in the store. Paste it again; nothing else is affected.'
        : 'Put that key file back (GREEN_MANTLE_KEY_FILE), or paste the key again.',
  })
})
