import { budgetOf, encodesOf, namesServed } from '../fit'
import { planOf } from '../plan'
import type { Show } from '../show'

export const planFileFormat = 'green-mantle-plan'
export const planFileVersion = 1
export const planFileExtension = '.plan.json'

/** The plan of a show as open JSON: what is sent, encoded and recorded, without addresses or keys. */
export function writePlanFile(show: Show): string {
  const { upload, totalKbps, sends } = budgetOf(show)
  const names = new Map(
    [...show.destinations, ...show.recordings].map(({ id, name }) => [id, name]),
  )
  const plan = {
    title: show.title,
    usableUploadKbps: Math.round(upload.usableKbps),
    sentKbps: Math.round(totalKbps),
    computer: show.computer.name,
    sends: sends.map(({ name, destinationId, canvas, rendition, wireRateKbps }) => ({
      name,
      destinationId,
      canvas,
      renditionId: rendition.id,
      wireRateKbps: Math.round(wireRateKbps),
    })),
    encodes: encodesOf(show).map(({ canvas, rendition, deviceId, feeds }) => ({
      canvas,
      device: show.computer.devices.find(({ id }) => id === deviceId)?.name ?? null,
      serves: namesServed({ feeds }),
      rendition,
    })),
    parts: planOf(show).map((part) => ({ name: names.get(part.id), ...part })),
  }
  return `${JSON.stringify({ format: planFileFormat, version: planFileVersion, plan }, null, 2)}\n`
}
