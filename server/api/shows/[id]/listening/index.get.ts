import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { listeningState } from '../../../../listeners/listening'

/** What the show's listeners have heard; null where none listen. */
export default apiHandler((event) =>
  Promise.resolve({ listening: listeningState(showIdOf(event)) }),
)
