import { useDatabase } from '../database/connection'
import { apiHandler } from '../http/apiHandler'

/** Answers once the tables are there and the database takes questions. */
export default apiHandler(async () => {
  await (await useDatabase()).raw('SELECT 1')
  return { ready: true }
})
