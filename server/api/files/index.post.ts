import { setResponseStatus } from 'h3'
import { useDatabase } from '../../database/connection'
import { storeFile } from '../../database/files/fileStore'
import { readUpload } from '../../files/readUpload'
import { inUploadTurn } from '../../files/uploadTurns'
import { apiHandler } from '../../http/apiHandler'

/** A large file over a slow line takes minutes. */
const deadlineSeconds = 900

export default apiHandler(
  (event) =>
    inUploadTurn(async () => {
      const { removed, dispose, ...file } = await readUpload(event)
      try {
        const stored = await storeFile(await useDatabase(), file)
        setResponseStatus(event, 201)
        return { ...stored, removed }
      } finally {
        await dispose()
      }
    }),
  { deadlineSeconds },
)
