import { readKeyFile } from '../server/secrets/keyFile'
import { accessTokenFrom } from '../server/settings'
import { startApplication } from './application'
import { systemPrograms } from '../server/programs/systemPrograms'
import { ensureBuild } from './build'
import { openDatabase } from './database'
import { dataDirectory } from './paths'
import { portFrom } from './ports'
import { keptRunning } from './restarting'
import { main } from './run'
import { requireStillWanted } from './stillWanted'
import { ensurePrograms } from './systemPackages'
import { untilInterrupted } from './untilInterrupted'

/** `npm run demo`: database and application with the demo show, until Ctrl-C. */
main(async () => {
  requireStillWanted('demo')
  const interrupted = untilInterrupted()
  // What would stop it later is said first.
  const port = portFrom(process.env.GREEN_MANTLE_PORT, 4700)
  const host = process.env.GREEN_MANTLE_HOST ?? '127.0.0.1'
  accessTokenFrom({ ...process.env, NITRO_HOST: host })
  const keyFile = process.env.GREEN_MANTLE_KEY_FILE ?? `${dataDirectory}/installation.key`
  await readKeyFile(keyFile)
  const database = await openDatabase()
  // Measuring and trying need it; everything else goes on without, and the pages say so.
  await ensurePrograms([systemPrograms.encoder]).catch((error: unknown) => {
    console.log(`${(error as Error).message} Until then nothing is measured or tried for real.`)
  })
  let isOver = false
  const isDone = (): boolean => isOver
  try {
    await ensureBuild()
    const start = () =>
      startApplication({
        databaseUrl: database.url,
        databaseFolder: database.own?.folder,
        host,
        port,
        loadDemo: true,
        keyFile,
      })
    let application = await start()
    console.log(`\nGreen Mantle is ready at ${application.address}\nCtrl-C stops it.\n`)
    try {
      await Promise.race([
        interrupted,
        keptRunning(application, { name: 'The application', again: start }, isDone, (running) => {
          application = running
          console.log(`Green Mantle is ready again at ${running.address}`)
        }),
        ...(database.own
          ? [keptRunning(database.own, { name: 'The database', again: database.own.again }, isDone)]
          : []),
      ])
    } finally {
      isOver = true
      await application.stop()
    }
  } finally {
    await database.stop()
  }
  // Whatever is being started again at this very moment is not waited for; the guardian ends it.
  process.exit()
})
