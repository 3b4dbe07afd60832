import type { KeptPlan, Recording } from '@green-mantle/core/show'
import { parsed, type Row } from './row'

export function recordingRows(recordings: readonly Recording[]): Row[] {
  return recordings.map((recording, position) => ({
    id: recording.id,
    position,
    name: recording.name,
    canvas: recording.canvas,
    is_on: recording.on,
    mix: recording.mix,
    most_video_bitrate_kbps: recording.mostVideoBitrateKbps,
    plan: JSON.stringify(recording.plan),
    viewers: JSON.stringify(recording.viewers),
    codecs: JSON.stringify(recording.codecs),
    rendition: JSON.stringify(recording.rendition),
  }))
}

/** Not yet checked, as all that comes from rows. */
export function recordingFromRow(row: Row): unknown {
  return {
    id: row.id,
    name: row.name,
    canvas: row.canvas,
    on: Boolean(row.is_on),
    mix: row.mix,
    mostVideoBitrateKbps: row.most_video_bitrate_kbps,
    plan: parsed(row.plan),
    viewers: parsed(row.viewers),
    codecs: parsed(row.codecs),
    rendition: parsed(row.rendition),
  }
}

export function keptPlanRows(plans: readonly KeptPlan[]): Row[] {
  return plans.map(({ id, name, parts }, position) => ({
    id,
    position,
    name,
    parts: JSON.stringify(parts),
  }))
}

export function keptPlanFromRow(row: Row): unknown {
  return { id: row.id, name: row.name, parts: parsed(row.parts) }
}
