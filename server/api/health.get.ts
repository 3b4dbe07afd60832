import { useDatabase } from '../database/connection'
import { untilPrepared } from '../database/prepared'
import { apiHandler } from '../http/apiHandler'

/** Answers once the tables are there, the demo show where it is wanted, and the database takes questions. */
export default apiHandler(async () => {
  await untilPrepared()
  await (await useDatabase()).raw('SELECT 1')
  return { ready: true }
})
