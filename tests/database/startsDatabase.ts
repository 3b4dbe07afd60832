import { startPrivateMariadb } from '../../scripts/mariadb'
import { main } from '../../scripts/run'
import { untilInterrupted } from '../../scripts/untilInterrupted'

/** Starts a database in the folder that it is given, as the demo does, and says when it runs. */
main(async () => {
  const [, , directory = ''] = process.argv
  const interrupted = untilInterrupted()
  const mariadb = await startPrivateMariadb({ directory, firstPort: 4350 })
  process.stdout.write('running\n')
  await interrupted
  await mariadb.stop()
})
