import { z } from 'zod'
import { canvasPairSchema } from './canvasPair'
import { destinationSchema } from './destination'
import { dressingSchema } from './dressing'
import { computerSchema } from './encoder'
import { identifierSchema, shortTextSchema } from './identifier'
import { keptPlanSchema } from './keptPlan'
import { lineSchema } from './line'
import { ownPictureSchema } from './ownPicture'
import { pictureChoices } from './pictureKind'
import { fitSettingsSchema } from './plan'
import { recordingSchema } from './recording'
import { rehearsalSchema } from './rehearsal'
import { runSheetSchema } from './runSheet'
import { sceneRoles, sceneSchema, transitionSchema } from './scene'
import { audioSampleRateSchema, type Rendition } from './rendition'
import { showWordsSchema, wallClockSchema } from './showWords'
import { soundSchema } from './sound'
import { sourceSchema } from './source'
import { mostOf } from './mostOf'

/** The shape of a show without the checks across its parts; the published JSON Schema is written from it. */
export const showShape = z.strictObject({
  title: shortTextSchema.min(1),
  /** Wall-clock time in `timeZone`. */
  startsAt: wallClockSchema,
  /** An IANA time zone name, as in Europe/London. */
  timeZone: z.string().regex(/^[A-Za-z0-9_+/-]{1,64}$/),
  durationMinutes: z.int().min(1).max(10_080),
  pictureKind: z.enum(pictureChoices),
  /** null until a clip was measured. */
  ownPicture: ownPictureSchema.nullable(),
  canvasPair: canvasPairSchema,
  sources: z.array(sourceSchema).max(mostOf.sources),
  scenes: z.array(sceneSchema).min(1).max(mostOf.scenes),
  transition: transitionSchema,
  dressing: dressingSchema,
  sounds: z.array(soundSchema).max(mostOf.sounds),
  /** At what rate the sounds are mixed. */
  mixSampleRateHz: audioSampleRateSchema,
  lines: z.array(lineSchema).min(1).max(mostOf.lines),
  /** The line that the show goes up. */
  lineId: identifierSchema,
  words: showWordsSchema,
  destinations: z.array(destinationSchema).max(mostOf.destinations),
  recordings: z.array(recordingSchema).max(mostOf.recordings),
  computer: computerSchema,
  fit: fitSettingsSchema,
  rehearsal: rehearsalSchema,
  runSheet: runSheetSchema,
  keptPlans: z.array(keptPlanSchema).max(mostOf.keptPlans),
})

type Path = (string | number)[]
type Report = (path: Path, message: string) => void

function reportRepeatedIdentifiers(
  parts: readonly { id: string }[],
  path: Path,
  report: Report,
): void {
  const seen = new Set<string>()
  parts.forEach(({ id }, index) => {
    if (seen.has(id)) report([...path, index, 'id'], `the identifier "${id}" stands here twice`)
    seen.add(id)
  })
}

/** Whether a wall-clock time names a day that the calendar has. */
function isCalendarDay(wallClock: string): boolean {
  const day = wallClock.slice(0, 10)
  const read = new Date(`${day}T00:00:00Z`)
  return !Number.isNaN(read.getTime()) && read.toISOString().startsWith(day)
}

/** The names that were found good: asking costs more than checking the rest of a small show. */
const knownTimeZones = new Set<string>()

function isTimeZone(name: string): boolean {
  if (knownTimeZones.has(name)) return true
  try {
    new Intl.DateTimeFormat('en-GB', { timeZone: name })
  } catch {
    return false
  }
  knownTimeZones.add(name)
  return true
}

export const showSchema = showShape.superRefine((show, context) => {
  const report: Report = (path, message) => context.addIssue({ code: 'custom', path, message })
  if (!isCalendarDay(show.startsAt)) report(['startsAt'], `there is no day ${show.startsAt}`)
  if (show.pictureKind === 'own' && !show.ownPicture)
    report(['pictureKind'], 'no picture of your own was measured')
  if (!isTimeZone(show.timeZone)) report(['timeZone'], `there is no time zone "${show.timeZone}"`)
  reportRepeatedIdentifiers(show.sources, ['sources'], report)
  reportRepeatedIdentifiers(show.scenes, ['scenes'], report)
  reportRepeatedIdentifiers(show.destinations, ['destinations'], report)
  reportRepeatedIdentifiers(show.sounds, ['sounds'], report)
  reportRepeatedIdentifiers(show.lines, ['lines'], report)
  reportRepeatedIdentifiers(show.recordings, ['recordings'], report)
  reportRepeatedIdentifiers(show.computer.devices, ['computer', 'devices'], report)
  reportRepeatedIdentifiers(show.keptPlans, ['keptPlans'], report)
  reportRepeatedIdentifiers(show.rehearsal.incidents, ['rehearsal', 'incidents'], report)
  reportRepeatedIdentifiers(show.runSheet.people, ['runSheet', 'people'], report)
  reportRepeatedIdentifiers(show.runSheet.changes, ['runSheet', 'changes'], report)
  reportRepeatedIdentifiers(show.runSheet.ownTasks, ['runSheet', 'ownTasks'], report)
  if (!show.lines.some(({ id }) => id === show.lineId))
    report(['lineId'], `there is no line "${show.lineId}"`)
  show.lines.forEach(({ samples, otherTraffic, localNetwork }, index) => {
    const path = ['lines', index]
    reportRepeatedIdentifiers(samples, [...path, 'samples'], report)
    reportRepeatedIdentifiers(otherTraffic, [...path, 'otherTraffic'], report)
    reportRepeatedIdentifiers(localNetwork.devices, [...path, 'localNetwork', 'devices'], report)
  })

  show.sources.forEach(({ focus, nativeWidth, nativeHeight }, index) => {
    if (focus && (focus.x + focus.width > nativeWidth || focus.y + focus.height > nativeHeight))
      report(['sources', index, 'focus'], 'the focus reaches beyond the source')
  })
  const scenesById = new Map(show.scenes.map((scene) => [scene.id, scene]))
  show.scenes.forEach((scene, index) => {
    if (scene.verticalOf === null) return
    const path = ['scenes', index, 'verticalOf']
    const shared = scenesById.get(scene.verticalOf)
    if (!shared) report(path, `there is no scene "${scene.verticalOf}"`)
    else if (shared === scene) report(path, 'a scene cannot share its own vertical')
    else if (shared.verticalOf !== null) report(path, 'that scene uses the vertical of another')
  })
  for (const role of sceneRoles)
    if (show.scenes.filter((scene) => scene.role === role).length > 1)
      report(['scenes'], `more than one scene is marked as ${role}`)
  const sourcesById = new Map(show.sources.map((source) => [source.id, source]))
  show.scenes.forEach((scene, sceneIndex) => {
    reportRepeatedIdentifiers(scene.layers, ['scenes', sceneIndex, 'layers'], report)
    scene.layers.forEach((layer, layerIndex) => {
      const path = ['scenes', sceneIndex, 'layers', layerIndex]
      const source = sourcesById.get(layer.sourceId)
      if (!source) return report([...path, 'sourceId'], `there is no source "${layer.sourceId}"`)
      for (const canvas of ['landscape', 'vertical'] as const) {
        const { left, right, top, bottom } = layer[canvas].trim
        if (left + right > source.nativeWidth - 1 || top + bottom > source.nativeHeight - 1)
          report([...path, canvas, 'trim'], 'the trim leaves nothing of the source')
      }
    })
  })
  const soundIds = new Set(show.sounds.map(({ id }) => id))
  show.sounds.forEach(({ sourceId, alsoHeardIn }, index) => {
    if (sourceId !== null && !sourcesById.has(sourceId))
      report(['sounds', index, 'sourceId'], `there is no source "${sourceId}"`)
    const unknown = alsoHeardIn.find((id) => !soundIds.has(id))
    if (unknown !== undefined)
      report(['sounds', index, 'alsoHeardIn'], `there is no sound "${unknown}"`)
  })
  const destinationsById = new Map(show.destinations.map((item) => [item.id, item]))
  show.destinations.forEach(({ relayId }, index) => {
    if (relayId === null) return
    const path = ['destinations', index, 'relayId']
    const relay = destinationsById.get(relayId)
    if (!relay) report(path, `there is no destination "${relayId}"`)
    else if (relay.connection !== 'relay') report(path, `${relay.name} is no relay`)
    else if (show.destinations[index]?.connection === 'relay')
      report(path, 'a relay is not fed by a relay')
  })
  const deviceIds = new Set(show.computer.devices.map(({ id }) => id))
  const checkDevice = (rendition: Rendition, path: Path): void => {
    const { deviceId } = rendition.encoder
    if (deviceId !== null && !deviceIds.has(deviceId))
      report([...path, 'encoder', 'deviceId'], `there is no device "${deviceId}"`)
  }
  show.recordings.forEach(({ rendition }, index) =>
    checkDevice(rendition, ['recordings', index, 'rendition']),
  )
  show.destinations.forEach((destination, index) => {
    const path = ['destinations', index, 'renditions']
    destination.renditions.forEach((rendition, step) => checkDevice(rendition, [...path, step]))
    reportRepeatedIdentifiers(destination.renditions, path, report)
    reportRepeatedIdentifiers(destination.coverZones, ['destinations', index, 'coverZones'], report)
  })
})
/** One live event being planned. */
export type Show = z.infer<typeof showShape>
