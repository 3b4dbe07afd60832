// Installs the npm packages where they are missing or older than the lock file. Plain JavaScript,
// since nothing is installed yet when it runs.
import { spawnSync } from 'node:child_process'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))
const stampFile = `${root}node_modules/.installed-from`

const [major, minor] = process.versions.node.split('.').map(Number)
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`)
  process.exit(1)
}

const stamp = createHash('sha256')
for (const file of ['package.json', 'package-lock.json', 'core/package.json', 'demo/package.json'])
  stamp.update(readFileSync(root + file))
const wanted = stamp.digest('hex')

if (!existsSync(stampFile) || readFileSync(stampFile, 'utf8') !== wanted) {
  console.log('Installing the npm packages …')
  // `npm ci` wants every platform's optional packages in the lock file, which a registry may not list.
  const install = () =>
    spawnSync('npm', ['install', '--no-save', '--no-audit', '--no-fund'], {
      cwd: root,
      stdio: 'inherit',
    }).status ?? 1
  // A package's own step may run a program while it is still being written; the second try finds it whole.
  const status = install() === 0 ? 0 : install()
  if (status !== 0) process.exit(status)
  writeFileSync(stampFile, wanted)
}
