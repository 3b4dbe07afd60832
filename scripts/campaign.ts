import { writeFileSync } from 'node:fs'
import { ensureBuild } from './build'
import { input } from './campaign/input'
import { type Finding, type Instance, startInstance } from './campaign/instance'
import { kills } from './campaign/kills'
import { life } from './campaign/life'
import { load } from './campaign/load'
import { night } from './campaign/night'
import { web } from './campaign/web'
import { systemPrograms } from '../server/programs/systemPrograms'
import { ensurePrograms } from './systemPackages'
import { root } from './paths'
import { main } from './run'

/** Each part gets an instance of its own; together they take about a quarter of an hour. */
const parts: Record<string, (instance: Instance) => Promise<Finding[]>> = {
  kills: (instance) => kills(instance, { count: 200, seconds: 240 }),
  load: (instance) => load(instance, { editors: 200 }),
  input: (instance) => input(instance, { count: 10_000 }),
  web,
  night,
  life: (instance) => life(instance, { saves: 20_000, seconds: 150 }),
}

const line = ({ name, value, unit, wanted, isReached }: Finding): string =>
  `${name} ${Number(value.toPrecision(4))} ${unit} (wanted: ${wanted}${isReached ? '' : '; MISSED'})`

function report(findings: readonly Finding[]): string {
  const rows = findings.map(
    ({ name, value, unit, wanted, isReached }) =>
      `| ${name.replaceAll('_', ' ')} | ${Number(value.toPrecision(4))} ${unit} | ${wanted} | ${isReached ? 'yes' : '**no**'} |`,
  )
  const [day] = new Date().toISOString().split('T')
  return `# What it withstands

\`npm run campaign\` tries hard to break an instance of its own, on loopback, in about a quarter of an hour, and writes this page; \`npm run campaign -- kills\` (or \`load\`, \`input\`, \`web\`, \`night\`, \`life\`) tries one part and prints its figures. A short form of each is in \`npm run test:deep\` (\`tests/browser/campaign.spec.ts\`).

- **kills**: eight editors save without pause while the application and, every third time, the database are killed with SIGKILL.
- **load**: 200 editors on as many shows save at once; beside it, in the same run, a bare commit of the same size over the same pool of connections.
- **input**: damaged and odd bodies, paths and parameters on every route; beside it a drawing is asked for every 20 ms, whose longest wait says how long the server’s loop was held up.
- **web**: rebound host names, other origins and other ports.
- **night**: ingests that send us elsewhere, files that pretend to be films, a clock set back, a full recordings disk, callers without a key, a phone that reaches too far, a database away, a server killed: the tests of these, with all that the deep tier has of them.
- **life**: saves in a row; how far memory grows after the first fifth.

**A disk that is full** (\`tests/database/fullDisk.test.ts\`, on a disk mounted for it): MariaDB 10.11 ends itself where it has to take a statement back and finds no room for that. So nothing is written with less than 64 MB free, or too little for what is sent: a 507 in words, before the database is asked; tables are not changed at a start either. What is there stays, and with room again it goes on. Another program that fills the disk while the database writes can still end it; it is started again, and what was acknowledged is there.

**Tried by tests, not by the campaign**: pages over plain HTTP from another name (\`elsewhere.spec.ts\`), guesses of the access token (\`access.spec.ts\`), speeds measured on a busy computer (\`settleDoubts.test.ts\`), small windows and 200 % (\`narrow.spec.ts\`).

**Not tried**: a datagram from port 0, which is left unanswered by one line; slow computers beyond what _Start the encoders_ answers after 50 s.

As of ${day}, on two cores:

| figure | value | wanted | reached |
|---|---|---|---|
${rows.join('\n')}
`
}

/** `npm run campaign [-- part]`. */
main(async () => {
  const [only] = process.argv.slice(2)
  if (only !== undefined && !(only in parts))
    throw new Error(`There is no part "${only}"; there are ${Object.keys(parts).join(', ')}.`)
  await ensurePrograms([systemPrograms.database])
  await ensureBuild()
  const all: Finding[] = []
  for (const [name, part] of Object.entries(parts)) {
    if (only !== undefined && name !== only) continue
    const instance = await startInstance(4900)
    try {
      const findings = await part(instance)
      for (const each of findings) console.log(line(each))
      all.push(...findings)
    } finally {
      await instance.stop()
    }
  }
  if (only === undefined) writeFileSync(`${root}/docs/reliability.md`, report(all))
  if (all.some(({ isReached }) => !isReached)) process.exitCode = 1
})
