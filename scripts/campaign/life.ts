import { demoShow } from '@green-mantle/demo'
import {
  createShow,
  type Finding,
  finding,
  type Instance,
  none,
  residentMegabytes,
  saveShow,
  under,
} from './instance'

const editors = 8
/** Memory is looked at from here on; before, code and caches are still being made. */
const settledAfter = 0.2

/** Many saves in a row: memory stays where it was. */
export async function life(
  instance: Instance,
  { saves, seconds }: { saves: number; seconds: number },
): Promise<Finding[]> {
  const { address, process: child } = instance.application
  const deadline = Date.now() + seconds * 1000
  let [done, failed, early, late] = [0, 0, 0, 0]
  await Promise.all(
    Array.from({ length: editors }, async () => {
      const id = await createShow(address)
      let revision = 1
      while (done < saves && Date.now() < deadline) {
        const saved = await saveShow(address, id, revision, { ...demoShow, title: `${done}` })
        done += 1
        if (saved.status !== 200) failed += 1
        revision = saved.revision
        const megabytes = residentMegabytes(child.pid ?? 0)
        if (done < saves * settledAfter) early = Math.max(early, megabytes)
        else late = Math.max(late, megabytes)
      }
    }),
  )
  const growth = late === 0 ? 0 : late - early
  return [
    finding('life_saves', done, 'saves', [`${saves}, as far as there is time`, done > 0]),
    finding('life_saves_failed', failed, 'saves', none(failed)),
    finding('life_memory_growth', growth, 'MB', under(growth, 60)),
  ]
}
