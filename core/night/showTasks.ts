import type { Scene, Show } from '../show'
import { leadSeconds, taskSeconds } from './leadTables'
import { after, sendTasks, task } from './sendTasks'
import type { Task } from './task'

const latest = (seconds: number) => ({ rule: 'latest', seconds: -seconds }) as const

/** The first scene that is neither for before nor for after. */
const mainScene = ({ scenes }: Show): Scene | undefined =>
  scenes.find(({ role }) => role === null) ?? scenes[0]
const sceneFor = ({ scenes }: Show, role: Scene['role']): Scene | undefined =>
  scenes.find((scene) => scene.role === role)

function before(show: Show): Task[] {
  const about = { phase: 'before', kind: 'check' } as const
  const records = show.recordings.some(({ on }) => on)
  const hears = show.sounds.some(({ kind }) => kind === 'microphone')
  return [
    task({
      ...about,
      id: 'line',
      title: 'Measure the line, as it will be used',
      hint: 'At the hour of the show, by the medium of the show.',
      kind: 'act',
      durationSeconds: taskSeconds.measure,
      told: 'line measured',
      due: latest(leadSeconds.line),
    }),
    task({
      ...about,
      id: 'quiet',
      title: 'Stop syncs and updates',
      hint: 'On every machine that uses the line.',
      durationSeconds: taskSeconds.measure,
      due: latest(leadSeconds.quiet),
    }),
    task({
      ...about,
      id: 'power',
      title: 'Charge, plug in, cable in',
      durationSeconds: taskSeconds.measure,
      due: latest(leadSeconds.power),
    }),
    ...(records
      ? [
          task({
            ...about,
            id: 'disk',
            title: 'Room on the disk for the recording',
            told: 'disk free',
            due: latest(leadSeconds.disk),
          }),
        ]
      : []),
    task({
      ...about,
      id: 'encoders',
      title: 'The encoders of this computer open',
      told: 'encoders measured',
      due: latest(leadSeconds.encoders),
    }),
    task({
      ...about,
      id: 'rehearsed',
      title: 'Rehearsed since the last change',
      told: 'rehearsed',
      due: latest(leadSeconds.rehearsed),
    }),
    ...(show.sources.length > 0
      ? [
          task({
            ...about,
            id: 'sources',
            title: 'Every source is there',
            hint: 'Each scene once, on both canvases.',
            durationSeconds: taskSeconds.measure,
            due: latest(leadSeconds.sources),
          }),
        ]
      : []),
    ...(hears
      ? [
          task({
            ...about,
            id: 'levels',
            title: 'Every microphone moves its level',
            durationSeconds: taskSeconds.paste,
            waitsFor: show.sources.length > 0 ? [after('sources')] : [],
            due: latest(leadSeconds.levels),
          }),
        ]
      : []),
    task({
      ...about,
      id: 'accounts',
      title: 'No phone or second program is logged in where it ends the send',
      due: latest(leadSeconds.accounts),
    }),
  ]
}

function around(show: Show): Task[] {
  const on = show.destinations.filter((destination) => destination.on)
  const opening = sceneFor(show, 'starting') ?? mainScene(show)
  const main = mainScene(show)
  const last = sceneFor(show, 'end')
  const endSeconds = show.durationMinutes * 60
  const records = show.recordings.filter((recording) => recording.on)
  return [
    task({
      id: 'opening-scene',
      title: opening ? `Scene: ${opening.name}` : 'A first scene on both canvases',
      phase: 'going up',
      kind: 'act',
      durationSeconds: taskSeconds.short,
      due: latest(0),
    }),
    ...records.map((recording) =>
      task({
        id: `record-${recording.id}`,
        title: `Start recording ${recording.name}`,
        phase: 'going up',
        kind: 'act',
        canvas: recording.canvas,
        durationSeconds: taskSeconds.short,
        waitsFor: [after('opening-scene')],
        due: latest(0),
      }),
    ),
    task({
      id: 'on-air',
      title: main ? `Begin: scene ${main.name}` : 'Begin',
      phase: 'on air',
      kind: 'act',
      durationSeconds: 0,
      waitsFor: [
        ...on.map(({ id }) => after(`live-${id}`)),
        ...records.map(({ id }) => after(`record-${id}`)),
      ],
      due: { rule: 'at', seconds: 0 },
    }),
    task({
      id: 'watch',
      title: 'Watch what is lost, what lags, and whose fault it is',
      phase: 'on air',
      kind: 'watch',
      waitsFor: [after('on-air')],
      due: { rule: 'not before', seconds: 0 },
    }),
    task({
      id: 'last-scene',
      title: last ? `Scene: ${last.name}` : 'A last scene',
      phase: 'coming down',
      kind: 'act',
      durationSeconds: taskSeconds.press,
      waitsFor: [after('on-air')],
      due: { rule: 'at', seconds: endSeconds },
    }),
    ...records.map((recording) =>
      task({
        id: `whole-${recording.id}`,
        title: `Stop recording ${recording.name}, and see that it is whole`,
        phase: 'coming down',
        kind: 'end',
        canvas: recording.canvas,
        durationSeconds: taskSeconds.paste,
        waitsFor: [after('last-scene')],
        due: { rule: 'not before', seconds: endSeconds },
      }),
    ),
    task({
      id: 'replays',
      title: 'Keep each replay or not',
      phase: 'after',
      kind: 'act',
      durationSeconds: taskSeconds.measure,
      waitsFor: on.map(({ id, relayId, rules }) =>
        after(relayId !== null && rules.end === 'pressed on its page' ? `end-${id}` : `stop-${id}`),
      ),
      due: { rule: 'not before', seconds: endSeconds },
    }),
    task({
      id: 'wrap-up',
      title: 'Look at what was lost and why; keep the marks',
      phase: 'after',
      kind: 'check',
      durationSeconds: taskSeconds.arrange,
      waitsFor: [after('replays')],
      due: { rule: 'not before', seconds: endSeconds },
    }),
  ]
}

/** Every task that the show asks for, in no order yet. */
export const showTasks = (show: Show): Task[] => [
  ...before(show),
  ...sendTasks(show),
  ...around(show),
]
