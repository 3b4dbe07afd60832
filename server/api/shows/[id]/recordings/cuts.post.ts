import { resolve } from 'node:path'
import { cutsOf, nightState } from '@green-mantle/core/night'
import { useDatabase } from '../../../../database/connection'
import { maxNightEvents, readNightEvents } from '../../../../database/nights/nightStore'
import { apiHandler } from '../../../../http/apiHandler'
import { requireEncoder } from '../../../../http/encoderRequests'
import { ProblemError } from '../../../../http/problem'
import { readStoredShow, showIdOf } from '../../../../http/showRequests'
import { cutRecordings } from '../../../../night/cutRecordings'
import { readSettings } from '../../../../settings'

/** A few recordings of hours, copied. */
const deadlineSeconds = 900

/** Cuts the stretches that were marked on this night out of its recordings, into files beside them. */
export default apiHandler(
  async (event) => {
    const showId = showIdOf(event)
    await readStoredShow(showId)
    requireEncoder('There is nothing to cut with')
    const events = await readNightEvents(await useDatabase(), showId, 0, maxNightEvents)
    const cuts = cutsOf(nightState(events))
    if (cuts.length === 0)
      throw new ProblemError({
        status: 409,
        title: 'There is nothing to cut',
        detail:
          'No stretch that was marked lies in a recording that was made and closed from here.',
      })
    return cutRecordings(cuts, resolve(readSettings().recordingsFolder))
  },
  { deadlineSeconds },
)
