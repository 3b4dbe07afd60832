import { useDatabase } from '../database/connection'
import { NightWatch } from './nightWatch'

/** The one watch of this server. */
export const nightWatch = new NightWatch(useDatabase)
