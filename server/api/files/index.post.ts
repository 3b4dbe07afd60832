import { setResponseStatus } from 'h3'
import { useDatabase } from '../../database/connection'
import { storeFile } from '../../database/files/fileStore'
import { readUpload } from '../../files/readUpload'
import { apiHandler } from '../../http/apiHandler'

export default apiHandler(async (event) => {
  const { removed, ...file } = await readUpload(event)
  const stored = await storeFile(await useDatabase(), file)
  setResponseStatus(event, 201)
  return { ...stored, removed }
})
