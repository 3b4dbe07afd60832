import { type Incident, type IncidentKind, sentDirectly, type Show } from '../show'

/** What each kind is called, and how it usually is; set by us. */
export const defaultIncidents = {
  'upload dips': { label: 'The upload halves', durationSeconds: 120 },
  outage: { label: 'The line is cut', durationSeconds: 10 },
  'loss burst': { label: 'Packets go missing', durationSeconds: 20 },
  'other traffic': { label: 'A sync starts', durationSeconds: 480 },
  'other medium': { label: 'Wi-Fi instead of the cable', durationSeconds: 1800 },
  'device taken': { label: 'A game takes an encoder', durationSeconds: 300 },
  'hangs up': { label: 'A destination hangs up', durationSeconds: 5 },
  'slow ingest': { label: 'An ingest is slow', durationSeconds: 180 },
  'key runs out': { label: 'A key runs out', durationSeconds: 90 },
  'disk fills': { label: 'The disk fills', durationSeconds: 60 },
} as const satisfies Record<IncidentKind, { label: string; durationSeconds: number }>

type Somewhere = Pick<Show, 'destinations' | 'computer'>

/** An incident of a kind as it usually is, at a time; null where the show has nothing for it to happen to. */
export function newIncident(
  kind: IncidentKind,
  { destinations, computer }: Somewhere,
  id: string,
  atSeconds: number,
): Incident | null {
  const common = {
    id,
    on: true,
    atSeconds,
    durationSeconds: defaultIncidents[kind].durationSeconds,
  }
  const [destination] = sentDirectly(destinations)
  const device =
    computer.devices.find(({ kind: each }) => each === 'graphics') ?? computer.devices[0]
  if (kind === 'upload dips') return { ...common, kind, leftPercent: 50 }
  if (kind === 'outage' || kind === 'disk fills') return { ...common, kind }
  if (kind === 'loss burst') return { ...common, kind, lossPercent: 5 }
  if (kind === 'other traffic') return { ...common, kind, kbps: 6000 }
  if (kind === 'other medium') return { ...common, kind, medium: 'wifi' }
  if (kind === 'device taken')
    return device ? { ...common, kind, deviceId: device.id, takenPercent: 60 } : null
  if (!destination) return null
  if (kind === 'slow ingest') return { ...common, kind, destinationId: destination.id, kbps: 1000 }
  return { ...common, kind, destinationId: destination.id }
}

const seconds = (count: number): string =>
  count < 90 ? `${Math.round(count * 10) / 10} s` : `${Math.round(count / 60)} min`

/** An incident in a few words, for its flag: "sync, 6 Mb/s, 8 min". */
export function incidentInWords(incident: Incident, { destinations, computer }: Somewhere): string {
  const nameOf = (id: string): string =>
    destinations.find((destination) => destination.id === id)?.name ??
    computer.devices.find((device) => device.id === id)?.name ??
    'somebody gone'
  const long = seconds(incident.durationSeconds)
  switch (incident.kind) {
    case 'upload dips':
      return `upload at ${incident.leftPercent} %, ${long}`
    case 'outage':
      return `cut, ${long}`
    case 'loss burst':
      return `${incident.lossPercent} % lost, ${long}`
    case 'other traffic':
      return `sync, ${Math.round(incident.kbps / 100) / 10} Mb/s, ${long}`
    case 'other medium':
      return `by ${incident.medium === 'wifi' ? 'Wi-Fi' : incident.medium}, ${long}`
    case 'device taken':
      return `${nameOf(incident.deviceId)} taken, ${long}`
    case 'hangs up':
      return `${nameOf(incident.destinationId)} hangs up, ${long}`
    case 'slow ingest':
      return `${nameOf(incident.destinationId)} slow, ${long}`
    case 'key runs out':
      return `key of ${nameOf(incident.destinationId)} out, ${long}`
    case 'disk fills':
      return 'disk full'
  }
}
