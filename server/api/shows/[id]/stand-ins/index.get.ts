import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { standInsNow } from '../../../../standIns/platforms'

/** How the stand-ins of the show's destinations are, and what is written in their chats. */
export default apiHandler((event) => Promise.resolve({ standIns: standInsNow(showIdOf(event)) }))
