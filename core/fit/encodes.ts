import { encoderLoad, recordingMegabytes } from '../media'
import {
  type CanvasName,
  type Destination,
  type Device,
  type Recording,
  type Rendition,
  sentDirectly,
  type Show,
} from '../show'

/** One output of an encode, by identity: two destinations may have one name. */
export interface EncodeFeed {
  /** The destination or recording. */
  ownerId: string
  name: string
  renditionId: string
  isRecording: boolean
  /** Whether it goes to the second ingest. */
  isBackup: boolean
}

/** One running encoder and what it feeds. */
export interface Encode {
  key: string
  canvas: CanvasName
  rendition: Rendition
  deviceId: string | null
  feeds: EncodeFeed[]
  /** Whether it runs in the program of a hand-off. */
  isHandOff: boolean
}

type EncodedShow = Pick<Show, 'destinations' | 'recordings'>

/** What must be the same for two renditions to come from one encode; a recording's sound is its own. */
function encodeKey(canvas: CanvasName, rendition: Rendition, withSound: boolean): string {
  const { id: _id, pins: _pins, ...settings } = rendition
  const { audioCodec, audioBitrateKbps, audioChannels, audioSampleRateHz, ...picture } = settings
  const sound = withSound ? [audioCodec, audioBitrateKbps, audioChannels, audioSampleRateHz] : null
  const sorted = Object.entries(picture).sort(([a], [b]) => a.localeCompare(b))
  return JSON.stringify([canvas, sorted, sound])
}

/** The recordings that are part of the show as it stands. */
export const takenRecordings = (recordings: readonly Recording[]): Recording[] =>
  recordings.filter(({ on, plan }) => on && !plan.leftOut)

function feedsOf({ id, name, backupAddress }: Destination, rendition: Rendition): EncodeFeed[] {
  const main = { ownerId: id, name, renditionId: rendition.id, isRecording: false, isBackup: false }
  return backupAddress === null ? [main] : [main, { ...main, isBackup: true }]
}

/** The names of the destinations and recordings that an encode serves, each once. */
export const namesServed = ({ feeds }: Pick<Encode, 'feeds'>): string[] => [
  ...new Map(feeds.map(({ ownerId, name }) => [ownerId, name])).values(),
]

/**
 * The encodes of a show as it stands: renditions that are alike in every respect, on the same canvas,
 * share one, and a recording joins one with the same picture. A hand-off's program encodes for itself.
 */
export function encodesOf({ destinations, recordings }: EncodedShow): Encode[] {
  const encodes = new Map<string, Encode>()
  const pictures = new Map<string, Encode>()
  for (const destination of sentDirectly(destinations))
    for (const rendition of destination.renditions) {
      const { canvas } = destination
      const feeds = feedsOf(destination, rendition)
      const isHandOff = destination.connection === 'hand-off'
      const key = isHandOff
        ? `own program ${destination.id} ${rendition.id}`
        : encodeKey(canvas, rendition, true)
      const known = encodes.get(key)
      if (known) {
        known.feeds.push(...feeds)
        continue
      }
      const { deviceId } = rendition.encoder
      const encode = { key, canvas, rendition, deviceId, feeds, isHandOff }
      encodes.set(key, encode)
      if (!isHandOff) pictures.set(encodeKey(canvas, rendition, false), encode)
    }
  for (const { id, canvas, rendition, name } of takenRecordings(recordings)) {
    const feed = {
      ownerId: id,
      name,
      renditionId: rendition.id,
      isRecording: true,
      isBackup: false,
    }
    const key = encodeKey(canvas, rendition, false)
    const known = pictures.get(key)
    if (known) {
      known.feeds.push(feed)
      continue
    }
    const { deviceId } = rendition.encoder
    const encode = { key, canvas, rendition, deviceId, feeds: [feed], isHandOff: false }
    encodes.set(key, encode)
    pictures.set(key, encode)
  }
  return [...encodes.values()]
}

/** The share of a device that an encode takes, 1 = all of it; null where it cannot make it. */
export function loadOn(
  device: Device,
  rendition: Pick<Rendition, 'width' | 'height' | 'framesPerSecond' | 'codec' | 'effort'>,
): number | null {
  const throughput = device.throughputs.find(
    ({ codec, effort }) => codec === rendition.codec && effort === rendition.effort,
  )
  if (!throughput || !takesSize(device, rendition)) return null
  return encoderLoad(rendition, throughput, device.togetherFactor)
}

/** Whether a device takes a picture of this size; a vertical one may be turned. */
export function takesSize(
  { largest }: Pick<Device, 'largest'>,
  size: { width: number; height: number },
): boolean {
  return (
    Math.max(size.width, size.height) <= Math.max(largest.width, largest.height) &&
    Math.min(size.width, size.height) <= Math.min(largest.width, largest.height)
  )
}

/** What a show asks of one device, against what may be planned. */
export interface DeviceUse {
  device: Device
  encodes: Encode[]
  /** Share of the device, 1 = all of it. */
  load: number
  maxLoad: number
  /** Encodes that it cannot make at all: the codec, the effort or the size. */
  impossible: Encode[]
  fits: boolean
}

export function deviceUses(show: EncodedShow & Pick<Show, 'computer'>): DeviceUse[] {
  const encodes = encodesOf(show)
  return show.computer.devices.map((device) => {
    const own = encodes.filter(({ deviceId }) => deviceId === device.id)
    const loads = own.map(({ rendition }) => loadOn(device, rendition))
    const load = loads.reduce<number>((sum, share) => sum + (share ?? 0), 0)
    const maxLoad = device.plannedSharePercent / 100
    const impossible = own.filter((_, index) => loads[index] === null)
    const fits =
      impossible.length === 0 &&
      load <= maxLoad + 1e-9 &&
      own.length <= (device.sessions ?? Infinity)
    return { device, encodes: own, load, maxLoad, impossible, fits }
  })
}

/** What the recordings take of the disk, in decimal gigabytes. */
export const diskUseGigabytes = ({
  recordings,
  durationMinutes,
}: Pick<Show, 'recordings' | 'durationMinutes'>): number =>
  takenRecordings(recordings).reduce(
    (sum, { rendition }) => sum + recordingMegabytes(rendition, durationMinutes) / 1000,
    0,
  )
