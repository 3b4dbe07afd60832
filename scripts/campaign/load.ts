import { demoShow } from '@green-mantle/demo'
import { connect } from '../../server/database/connection'
import {
  createShow,
  type Finding,
  finding,
  type Instance,
  none,
  quantile,
  saveShow,
  under,
} from './instance'

/** How long each of many takes when all of them do something a few times at once. */
async function timesOf(
  count: number,
  each: (index: number, round: number) => Promise<unknown>,
): Promise<number[]> {
  const times: number[] = []
  await Promise.all(
    Array.from({ length: count }, async (_, index) => {
      for (let round = 0; round < rounds; round += 1) {
        const since = performance.now()
        await each(index, round)
        if (round >= untimedRounds) times.push(performance.now() - since)
      }
    }),
  )
  return times
}
const rounds = 8
/** A server that has just started is still being compiled. */
const untimedRounds = 3

/** Editors on as many shows save at once, beside a bare commit of the same size over as many connections. */
export async function load(
  instance: Instance,
  { editors }: { editors: number },
): Promise<Finding[]> {
  const { address } = instance.application
  const shows: { id: string; revision: number }[] = []
  for (let index = 0; index < editors; index += 1)
    shows.push({ id: await createShow(address), revision: 1 })
  let [refused, failed] = [0, 0]
  const saves = await timesOf(editors, async (index, round) => {
    const show = shows[index]
    if (!show) return
    const { status, revision } = await saveShow(address, show.id, show.revision, {
      ...demoShow,
      title: `Round ${round}`,
    })
    if (status === 200) show.revision = revision
    else if (status === 500) failed += 1
    else refused += 1
  })
  const database = connect(instance.mariadb.url)
  try {
    await database.raw('CREATE TABLE IF NOT EXISTS bare (id INT PRIMARY KEY, text LONGTEXT)')
    const text = JSON.stringify(demoShow)
    const bare = await timesOf(editors, (index, round) =>
      database.transaction(async (transaction) => {
        await transaction.raw('REPLACE INTO bare VALUES (?, ?)', [index, `${round}${text}`])
      }),
    )
    const ratio = quantile(saves, 0.95) / quantile(bare, 0.95)
    return [
      finding('load_editors', editors, 'editors', ['as asked', true]),
      finding('load_save_p95', quantile(saves, 0.95), 'ms', ['see the ratio', true]),
      finding('load_save_over_bare_commit_p95', ratio, 'times', under(ratio, 3)),
      finding('load_answers_500', failed, 'answers', none(failed)),
      finding('load_saves_refused', refused, 'answers', none(refused)),
    ]
  } finally {
    await database.raw('DROP TABLE IF EXISTS bare')
    await database.destroy()
  }
}
