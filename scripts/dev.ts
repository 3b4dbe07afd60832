import { once } from 'node:events'
import { openDatabase } from './database'
import { root } from './paths'
import { spawnGuarded } from './guarded'
import { freePort, portFrom } from './ports'
import { main } from './run'
import { requireStillWanted } from './stillWanted'
import { untilInterrupted } from './untilInterrupted'

/** `npm run dev`: the database, and the application rebuilt as its files change. */
main(async () => {
  requireStillWanted('dev')
  const interrupted = untilInterrupted()
  const database = await openDatabase()
  const port = await freePort(portFrom(process.env.GREEN_MANTLE_PORT, 4700))
  const nuxt = spawnGuarded(
    process.execPath,
    [`${root}/node_modules/nuxt/bin/nuxt.mjs`, 'dev', '--host', '127.0.0.1', '--port', `${port}`],
    {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: {
        ...process.env,
        GREEN_MANTLE_DATABASE_URL: database.url,
        NITRO_HOST: '127.0.0.1',
        GREEN_MANTLE_DEMO: '1',
        GREEN_MANTLE_ORIGIN: `http://127.0.0.1:${port}`,
      },
    },
  )
  const ended = once(nuxt, 'exit')
  await Promise.race([interrupted, ended])
  nuxt.kill('SIGTERM')
  await ended
  await database.stop()
})
