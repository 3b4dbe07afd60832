import { type Destination, relayOf, type Show } from '../show'
import { leadSeconds, taskSeconds } from './leadTables'
import { personNamed } from './people'
import type { Task, Waiting } from './task'

export type TaskDraft = Pick<Task, 'id' | 'title' | 'phase' | 'kind' | 'due'> & Partial<Task>

/** A task with what most tasks have. */
export const task = (draft: TaskDraft): Task => ({
  hint: '',
  destinationId: null,
  canvas: null,
  personId: null,
  waitsFor: [],
  durationSeconds: taskSeconds.press,
  told: 'by hand',
  stage: null,
  ...draft,
})

export const after = (id: string, lagSeconds = 0): Waiting => ({ id, lagSeconds })
const beforeStart = { rule: 'latest', seconds: 0 } as const

const isPressed = (procedure: string): boolean => procedure === 'pressed on its page'
const isByProgram = ({ rules, connection }: Destination): boolean =>
  connection === 'hand-off' || rules.start === 'by its program'

/** Whether a key has to be pasted for it. */
const needsKey = ({ connection, relayId, rules }: Destination): boolean =>
  relayId === null &&
  rules.key.life !== 'no key' &&
  (connection === 'address and key' || connection === 'relay')

const lagHint = ({ lagSeconds }: Destination): string =>
  lagSeconds > 0 ? `Its picture lags by ${lagSeconds} s.` : ''

function goingUp(show: Show, destination: Destination): Task[] {
  const { id, name, canvas, rules, lagSeconds } = destination
  const about = { destinationId: id, canvas, phase: 'going up', due: beforeStart } as const
  const relay = relayOf(show.destinations, destination)
  const sends = destination.relayId === null
  const sendTitle = isByProgram(destination)
    ? `Start ${name} in its program`
    : `Start sending to ${name}`
  const pressed = isPressed(rules.start)
  return [
    ...(sends
      ? [
          task({
            ...about,
            id: `send-${id}`,
            title: sendTitle,
            kind: 'act',
            hint: rules.start === 'live when it arrives' ? 'It is live as soon as it arrives.' : '',
            waitsFor: [
              ...(needsKey(destination) ? [after(`key-${id}`)] : []),
              after('opening-scene'),
            ],
            stage: 'sending',
          }),
        ]
      : []),
    task({
      ...about,
      id: `arrived-${id}`,
      title: `See the picture arrive on ${name}’s page`,
      kind: 'confirm',
      hint: [lagHint(destination), pressed ? 'Arriving is not live.' : ''].join(' ').trim(),
      waitsFor: [after(`send-${sends ? id : (relay?.id ?? id)}`, lagSeconds)],
      durationSeconds: taskSeconds.look,
      stage: 'arrived',
    }),
    task({
      ...about,
      id: `mute-${id}`,
      title: `Mute ${name}’s page`,
      kind: 'act',
      hint: 'Else the microphone hears it a second time.',
      waitsFor: [after(`arrived-${id}`)],
      durationSeconds: taskSeconds.short,
    }),
    ...(pressed
      ? [
          task({
            ...about,
            id: `start-${id}`,
            title: `Press start on ${name}’s page`,
            kind: 'act',
            hint: [lagHint(destination), 'Arriving is not live.'].join(' ').trim(),
            waitsFor: [after(`mute-${id}`)],
            stage: 'live',
          }),
        ]
      : []),
    task({
      ...about,
      id: `live-${id}`,
      title: `See ${name} as a viewer does${destination.viewers.includes('phone') ? ', on a phone' : ''}`,
      kind: 'confirm',
      hint: lagHint(destination),
      waitsFor: [after(pressed ? `start-${id}` : `mute-${id}`, lagSeconds)],
      durationSeconds: taskSeconds.look,
      stage: 'live',
    }),
  ]
}

function onAir(show: Show, { id, name, canvas, rules, chatReadBy }: Destination): Task[] {
  if (rules.chat === 'no chat') return []
  const where = rules.chat === 'only on its page' ? ', on its page' : ''
  return [
    task({
      id: `chat-${id}`,
      title: `Read ${name}’s chat${where}`,
      hint: chatReadBy.trim() === '' ? 'Nobody reads it yet.' : `Read by ${chatReadBy}.`,
      phase: 'on air',
      kind: 'watch',
      destinationId: id,
      canvas,
      personId: personNamed(show.runSheet.people, chatReadBy)?.id ?? null,
      waitsFor: [after(`live-${id}`), after('on-air')],
      due: { rule: 'not before', seconds: 0 },
    }),
  ]
}

function comingDown(show: Show, destination: Destination): Task[] {
  const { id, name, canvas, rules } = destination
  const about = {
    destinationId: id,
    canvas,
    phase: 'coming down',
    kind: 'end',
    due: { rule: 'not before', seconds: show.durationMinutes * 60 },
  } as const
  const pressed = isPressed(rules.end)
  const sends = destination.relayId === null
  return [
    ...(pressed
      ? [
          task({
            ...about,
            id: `end-${id}`,
            title: `End on ${name}’s page`,
            hint: sends
              ? 'First there, then here: the other way round leaves a frozen picture.'
              : '',
            waitsFor: [after('last-scene')],
            stage: sends ? null : 'ended',
          }),
        ]
      : []),
    ...(sends
      ? [
          task({
            ...about,
            id: `stop-${id}`,
            title: isByProgram(destination)
              ? `End ${name} in its program`
              : `Stop sending to ${name}`,
            waitsFor: [
              after(pressed ? `end-${id}` : 'last-scene'),
              ...show.destinations
                .filter((fed) => fed.on && fed.relayId === id && isPressed(fed.rules.end))
                .map((fed) => after(`end-${fed.id}`)),
            ],
            stage: 'ended',
          }),
        ]
      : pressed
        ? []
        : [
            task({
              ...about,
              id: `stop-${id}`,
              title: `See that ${name} has ended`,
              waitsFor: [after(`stop-${destination.relayId}`)],
              stage: 'ended',
            }),
          ]),
  ]
}

function daysBefore({ id, name, canvas, connection, rules }: Destination): Task[] {
  const about = { destinationId: id, canvas, phase: 'days before', kind: 'check' } as const
  return [
    task({
      ...about,
      id: `access-${id}`,
      title: `See that the account may go live on ${name}`,
      hint: 'Where access is granted on request it can take days.',
      due: { rule: 'latest', seconds: -leadSeconds.access },
    }),
    task({
      ...about,
      id: `announce-${id}`,
      title: `Announce it on ${name}’s page`,
      kind: 'act',
      waitsFor: [after(`access-${id}`)],
      durationSeconds: taskSeconds.measure,
      due: { rule: 'latest', seconds: -leadSeconds.announce },
    }),
    task({
      ...about,
      id: `words-${id}`,
      title: `Title${rules.words.thumbnail ? ', thumbnail' : ''} and audience on ${name}’s page`,
      hint:
        connection === 'linked account' ? 'Look there, also where they go over by themselves.' : '',
      waitsFor: [after(`announce-${id}`)],
      durationSeconds: taskSeconds.measure,
      due: { rule: 'latest', seconds: -leadSeconds.words },
    }),
  ]
}

function keyTask({ id, name, canvas, rules }: Destination): Task {
  const fresh = rules.key.life === 'per session'
  return task({
    id: `key-${id}`,
    title: fresh ? `Paste the fresh key of ${name}` : `The key of ${name} is there`,
    hint: fresh ? 'A new one every session: the last one is refused.' : '',
    phase: 'before',
    kind: fresh ? 'act' : 'check',
    destinationId: id,
    canvas,
    durationSeconds: taskSeconds.paste,
    told: 'key present',
    stage: 'key',
    due: { rule: 'latest', seconds: -leadSeconds.keys },
  })
}

/** The tasks of every destination that is on, in the order of the show. */
export const sendTasks = (show: Show): Task[] =>
  show.destinations
    .filter(({ on }) => on)
    .flatMap((destination) => [
      ...daysBefore(destination),
      ...(needsKey(destination) ? [keyTask(destination)] : []),
      ...goingUp(show, destination),
      ...onAir(show, destination),
      ...comingDown(show, destination),
    ])
