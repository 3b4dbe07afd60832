import { knownDone, knownTasks, nightOrder } from '@green-mantle/core/night'
import { startOf } from '@green-mantle/core/destinations'
import { useDatabase } from '../../../../database/connection'
import { readOwnComputer } from '../../../../database/computer/computerStore'
import { listKeys } from '../../../../database/keys/keyStore'
import { apiHandler } from '../../../../http/apiHandler'
import { readStoredShow, showIdOf } from '../../../../http/showRequests'
import { freeForRecordings } from '../../../../measuring/freeDisk'
import { useInstallationKey } from '../../../../secrets/installationKey'

/** The order of the night as a phone needs it: what to do and when; no address, no key, nothing else of the show. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const [database, show] = [await useDatabase(), await readStoredShow(showId)]
  const order = nightOrder(show)
  const { installation } = await readOwnComputer(database)
  const keys = await listKeys(database, await useInstallationKey(), showId)
  const known = knownTasks(show, order, {
    ...{ now: new Date(), keys, installation },
    browserMachine: null,
    freeDiskGigabytes: await freeForRecordings(),
  })
  return {
    title: show.title,
    timeZone: show.timeZone,
    startsAt: startOf(show).toISOString(),
    people: show.runSheet.people.map(({ name }) => name),
    scenes: show.scenes.map(({ id, name }) => ({ id, name })),
    tasks: order.tasks,
    known: [...knownDone(known)],
  }
})
