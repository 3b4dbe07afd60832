import { createReadStream, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { CanvasInput, Happening, SenderSend, SendTarget } from '@green-mantle/core/night'
import {
  newDestination,
  newRecording,
  newShow,
  type Rendition,
  type Show,
} from '@green-mantle/core/show'
import { closeStandIns, standInAddress, standInFor } from '../standIns/platforms'
import { Sender } from './sender'

let ownFolder: string | undefined
/** Of these tests alone; made when it is first asked for, since a file of which all is left out removes nothing. */
export const testFolder = (): string =>
  (ownFolder ??= mkdtempSync(join(tmpdir(), 'green-mantle-sender-')))

let last = 0
const identifier = (): string => `id-${(last += 1)}`
export const secret = 'a-key-that-is-nowhere-else'

/** Two places and a recording, small enough for any computer. */
export function smallShow(): Show {
  const show = newShow(identifier, { startsAt: '2026-12-12T20:00', timeZone: 'UTC' })
  const place = (id: string, name: string) => {
    const made = newDestination(() => id, name, 'landscape')
    return {
      ...made,
      lagSeconds: 0,
      protocol: 'rtmp' as const,
      sending: { ...made.sending, reconnectAfterSeconds: 0.5 },
      renditions: [
        {
          ...(made.renditions[0] as Rendition),
          ...{ id: `${id}-1`, width: 320, height: 180, framesPerSecond: 24 as const },
          ...{ videoBitrateKbps: 300, audioBitrateKbps: 96, keyframeIntervalSeconds: 1 },
          effort: 'fastest' as const,
        },
      ],
    }
  }
  const size = { width: 320, height: 180 }
  const recording = newRecording(identifier, 'Archive: file', { canvas: 'landscape', size })
  return {
    ...show,
    title: 'Small / show',
    canvasPair: { ...show.canvasPair, framesPerSecond: 24, landscape: { width: 640, height: 360 } },
    destinations: [place('one', 'One'), place('two', 'Two')],
    recordings: [
      {
        ...recording,
        rendition: {
          ...recording.rendition,
          ...size,
          framesPerSecond: 24,
          videoBitrateKbps: 300,
          effort: 'fastest',
        },
      },
    ],
  }
}

const running: Sender[] = []
/** Ends whatever a test began. */
export const endSenders = async (): Promise<void> => {
  for (const sender of running.splice(0)) await sender.stop()
}
/** Once no test follows. */
export const endStandIns = async (): Promise<void> => {
  await closeStandIns()
  if (ownFolder !== undefined) rmSync(ownFolder, { recursive: true, force: true })
  ownFolder = undefined
}

export async function begin(
  show: Show,
  inputs: CanvasInput = 'test picture',
  target: SendTarget = 'destinations',
  recordingsFolder = testFolder(),
) {
  const told: Happening[] = []
  await standInFor('show', show)
  const sender = await Sender.begin({
    show,
    target,
    inputs: { landscape: inputs, vertical: inputs },
    pieces: (name) => createReadStream(join(testFolder(), name)) as AsyncIterable<Buffer>,
    recordingsFolder,
    ingestOf: async (_, { id }) => ({
      address: await standInAddress('show', id),
      key: `${secret}-${id}`,
    }),
    log: (happening) => told.push(happening),
  })
  running.push(sender)
  const sendOf = async (id: string) =>
    (await sender.state()).sends.find(({ destinationId }) => destinationId === id) as SenderSend
  return { sender, told, sendOf }
}

export const toldOf = <Kind extends Happening['kind']>(told: readonly Happening[], kind: Kind) =>
  told.filter((each) => each.kind === kind) as Extract<Happening, { kind: Kind }>[]
