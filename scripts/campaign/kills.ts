import { demoShow } from '@green-mantle/demo'
import type { Show } from '@green-mantle/core/show'
import { createShow, type Finding, finding, type Instance, none, saveShow } from './instance'

const editorCount = 8
const betweenMilliseconds = 250

/**
 * Eight editors save without pause while the application and, every third time, the database are
 * killed: what was acknowledged has to be there afterwards, every show whole.
 */
export async function kills(
  instance: Instance,
  { count, seconds }: { count: number; seconds: number },
): Promise<Finding[]> {
  let isOver = false
  const statuses = new Map<number, number>()
  const acknowledged = await Promise.all(
    Array.from({ length: editorCount }, async () => {
      const id = await createShow(instance.application.address)
      return { id, last: 0, revision: 1 }
    }),
  )
  const editing = acknowledged.map(async (editor) => {
    for (let number = 1; !isOver; number += 1) {
      const { address } = instance.application
      const show: Show = { ...demoShow, title: `Edit ${number}` }
      const { status, revision } = await saveShow(address, editor.id, editor.revision, show)
      statuses.set(status, (statuses.get(status) ?? 0) + 1)
      editor.revision = revision
      if (status === 200) editor.last = number
      else await new Promise((resolve) => setTimeout(resolve, 50))
    }
  })
  const deadline = Date.now() + seconds * 1000
  let killed = 0
  while (killed < count && Date.now() < deadline) {
    await new Promise((resolve) => setTimeout(resolve, betweenMilliseconds))
    if (killed % 3 === 2) await instance.killDatabase()
    else await instance.killApplication()
    killed += 1
  }
  isOver = true
  await Promise.all(editing)

  let [lost, torn] = [0, 0]
  for (const { id, last } of acknowledged) {
    const response = await fetch(`${instance.application.address}/api/shows/${id}`)
    if (!response.ok) {
      torn += 1
      continue
    }
    const { title } = (await response.json()) as Show
    // One more may have been written whose answer was lost.
    const number = title === demoShow.title ? 0 : Number(title.slice('Edit '.length))
    if (number < last) lost += 1
  }
  return [
    finding('kills_survived', killed, 'kills', ['as many as there is time for', killed > 0]),
    finding('kills_saves_acknowledged', statuses.get(200) ?? 0, 'saves', [
      'some',
      (statuses.get(200) ?? 0) > 0,
    ]),
    finding('kills_acknowledged_saves_lost', lost, 'shows', none(lost)),
    finding('kills_shows_torn', torn, 'shows', none(torn)),
    finding('kills_answers_500', statuses.get(500) ?? 0, 'answers', none(statuses.get(500) ?? 0)),
  ]
}
