import { once } from 'node:events'
import { startApplication } from './application'
import { ensureBuild } from './build'
import { openDatabase } from './database'
import { main } from './run'
import { untilInterrupted } from './untilInterrupted'

/** `npm run demo`: database and application with the demo show, until Ctrl-C. */
main(async () => {
  const interrupted = untilInterrupted()
  const database = await openDatabase()
  try {
    await ensureBuild()
    const application = await startApplication({
      databaseUrl: database.url,
      host: process.env.GREEN_MANTLE_HOST ?? '127.0.0.1',
      port: Number(process.env.GREEN_MANTLE_PORT ?? 4700),
      loadDemo: true,
    })
    console.log(`\nGreen Mantle is ready at ${application.address}\nCtrl-C stops it.\n`)
    await Promise.race([interrupted, once(application.process, 'exit')])
    await application.stop()
  } finally {
    await database.stop()
  }
})
