import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { openDatabase } from './database'
import { root } from './paths'
import { freePort } from './ports'
import { main } from './run'
import { untilInterrupted } from './untilInterrupted'

/** `npm run dev`: the database, and the application rebuilt as its files change. */
main(async () => {
  const interrupted = untilInterrupted()
  const database = await openDatabase()
  const port = await freePort(Number(process.env.GREEN_MANTLE_PORT ?? 4700))
  const nuxt = spawn(
    process.execPath,
    [`${root}/node_modules/nuxt/bin/nuxt.mjs`, 'dev', '--host', '127.0.0.1', '--port', `${port}`],
    {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      detached: true,
      env: {
        ...process.env,
        GREEN_MANTLE_DATABASE_URL: database.url,
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
