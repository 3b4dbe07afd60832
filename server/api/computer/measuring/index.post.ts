import { measuringPasses, withEarlierEfficiencies } from '@green-mantle/core/measured'
import { setResponseStatus } from 'h3'
import { z } from 'zod'
import { useDatabase } from '../../../database/connection'
import { keepOwnComputer, readOwnComputer } from '../../../database/computer/computerStore'
import { apiHandler } from '../../../http/apiHandler'
import { requireClip, storedClipSchema } from '../../../http/clipRequests'
import { requireEncoder } from '../../../http/encoderRequests'
import { requireBegun } from '../../../http/measuringRequests'
import { readJsonBody } from '../../../http/readJsonBody'
import { readSettings } from '../../../settings'
import { beginMeasuring } from '../../../measuring/measuringJob'

/** Begins to measure this computer. */
export default apiHandler(async (event) => {
  const { pass, clip } = await readJsonBody(event, {
    name: 'A measurement',
    limitBytes: 2000,
    schema: z.strictObject({
      pass: z.enum(measuringPasses),
      /** By which a thorough pass measures what encoders get out of a bit; a made picture where there is none. */
      clip: storedClipSchema.nullable().default(null),
    }),
  })
  requireEncoder('There is nothing to measure with')
  const database = await useDatabase()
  const { installation, computer: earlier } = await readOwnComputer(database)
  requireBegun(
    beginMeasuring({
      pass,
      installation,
      clip: clip && (await requireClip(database, clip)),
      recordingsFolder: readSettings().recordingsFolder,
      keep: (computer) => keepOwnComputer(database, withEarlierEfficiencies(computer, earlier)),
    }),
  )
  setResponseStatus(event, 202)
  return null
})
