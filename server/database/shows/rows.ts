import {
  type CanvasName,
  canvasNames,
  type Placement,
  type Show,
  showSchema,
} from '@green-mantle/core/show'
import { destinationRows, destinationsFromRows } from './destinationRows'
import { groupBy } from './groupBy'
import { lineRows, linesFromRows } from './lineRows'
import { keptPlanFromRow, keptPlanRows, recordingFromRow, recordingRows } from './planRows'
import { parsed, type Row } from './row'
import { soundFromRow, soundRows } from './soundRows'

/** The tables below `shows`, parents before children, with the columns that name a row within its show. */
export const partTables = {
  canvases: ['canvas'],
  sources: ['id'],
  scenes: ['id'],
  layers: ['scene_id', 'id'],
  placements: ['scene_id', 'layer_id', 'canvas'],
  sounds: ['id'],
  lines: ['id'],
  line_samples: ['line_id', 'id'],
  other_traffic: ['line_id', 'id'],
  destinations: ['id'],
  renditions: ['destination_id', 'id'],
  recordings: ['id'],
  kept_plans: ['id'],
} as const
export type PartTable = keyof typeof partTables
export const partTableNames = Object.keys(partTables) as PartTable[]

export type ShowRows = { shows: Row } & Record<PartTable, Row[]>

function placementRow(
  sceneId: string,
  layerId: string,
  canvas: CanvasName,
  placed: Placement,
): Row {
  return {
    scene_id: sceneId,
    layer_id: layerId,
    canvas,
    x: placed.x,
    y: placed.y,
    width: placed.width,
    height: placed.height,
    turn_degrees: placed.turnDegrees,
    flipped_across: placed.flippedAcross,
    flipped_down: placed.flippedDown,
    shown: placed.shown,
    locked: placed.locked,
    opacity_percent: placed.opacityPercent,
    corner_radius: placed.cornerRadius,
    dressed: placed.dressed,
    trim_left: placed.trim.left,
    trim_top: placed.trim.top,
    trim_right: placed.trim.right,
    trim_bottom: placed.trim.bottom,
  }
}

/** A show taken apart into rows, without the identifier of the show. */
export function rowsFromShow(show: Show): ShowRows {
  return {
    shows: {
      title: show.title,
      starts_at: show.startsAt,
      time_zone: show.timeZone,
      duration_minutes: show.durationMinutes,
      picture_kind: show.pictureKind,
      own_picture: show.ownPicture && JSON.stringify(show.ownPicture),
      frames_per_second: show.canvasPair.framesPerSecond,
      line_id: show.lineId,
      mix_sample_rate_hz: show.mixSampleRateHz,
      words: JSON.stringify(show.words),
      transition_kind: show.transition.kind,
      transition_milliseconds: show.transition.milliseconds,
      dressing: JSON.stringify(show.dressing),
      fit: JSON.stringify(show.fit),
      rehearsal: JSON.stringify(show.rehearsal),
      run_sheet: JSON.stringify(show.runSheet),
      computer: JSON.stringify(show.computer),
    },
    canvases: canvasNames.map((canvas) => ({ canvas, ...show.canvasPair[canvas] })),
    sources: show.sources.map((source, position) => ({
      id: source.id,
      position,
      name: source.name,
      kind: source.kind,
      native_width: source.nativeWidth,
      native_height: source.nativeHeight,
      native_frames_per_second: source.nativeFramesPerSecond,
      appearance: JSON.stringify(source.appearance),
      focus: source.focus && JSON.stringify(source.focus),
      chroma_key: source.chromaKey && JSON.stringify(source.chromaKey),
    })),
    scenes: show.scenes.map((scene, position) => ({
      id: scene.id,
      position,
      name: scene.name,
      role: scene.role,
      vertical_of: scene.verticalOf,
      comes_by: scene.comesBy ? JSON.stringify(scene.comesBy) : null,
      without_device: scene.withoutDevice ?? null,
    })),
    layers: show.scenes.flatMap((scene) =>
      scene.layers.map(({ id, sourceId }, position) => ({
        scene_id: scene.id,
        id,
        source_id: sourceId,
        position,
      })),
    ),
    placements: show.scenes.flatMap((scene) =>
      scene.layers.flatMap((layer) =>
        canvasNames.map((canvas) => placementRow(scene.id, layer.id, canvas, layer[canvas])),
      ),
    ),
    sounds: soundRows(show.sounds),
    ...lineRows(show.lines),
    ...destinationRows(show.destinations),
    recordings: recordingRows(show.recordings),
    kept_plans: keptPlanRows(show.keptPlans),
  }
}

function placementFromRow(row: Row | undefined): unknown {
  if (!row) return undefined
  return {
    x: row.x,
    y: row.y,
    width: row.width,
    height: row.height,
    turnDegrees: row.turn_degrees,
    flippedAcross: Boolean(row.flipped_across),
    flippedDown: Boolean(row.flipped_down),
    trim: {
      left: row.trim_left,
      top: row.trim_top,
      right: row.trim_right,
      bottom: row.trim_bottom,
    },
    shown: Boolean(row.shown),
    locked: Boolean(row.locked),
    opacityPercent: row.opacity_percent,
    cornerRadius: row.corner_radius,
    dressed: Boolean(row.dressed),
  }
}

/** Puts a show together from its rows, each list in the order of its positions. Throws where the rows make no valid show. */
export function showFromRows(rows: ShowRows): Show {
  const placements = new Map(
    rows.placements.map((row) => [`${row.scene_id} ${row.layer_id} ${row.canvas}`, row]),
  )
  const layersByScene = groupBy(rows.layers, (row) => row.scene_id)
  const size = (canvas: CanvasName) => {
    const row = rows.canvases.find((candidate) => candidate.canvas === canvas)
    return { width: row?.width, height: row?.height }
  }
  return showSchema.parse({
    title: rows.shows.title,
    startsAt: rows.shows.starts_at,
    timeZone: rows.shows.time_zone,
    durationMinutes: rows.shows.duration_minutes,
    pictureKind: rows.shows.picture_kind,
    ownPicture: parsed(rows.shows.own_picture),
    canvasPair: {
      framesPerSecond: rows.shows.frames_per_second,
      landscape: size('landscape'),
      vertical: size('vertical'),
    },
    sources: rows.sources.map((row) => ({
      id: row.id,
      name: row.name,
      kind: row.kind,
      nativeWidth: row.native_width,
      nativeHeight: row.native_height,
      nativeFramesPerSecond: row.native_frames_per_second,
      appearance: parsed(row.appearance),
      focus: parsed(row.focus),
      chromaKey: parsed(row.chroma_key),
    })),
    scenes: rows.scenes.map((scene) => ({
      id: scene.id,
      name: scene.name,
      role: scene.role,
      verticalOf: scene.vertical_of,
      ...(scene.comes_by !== null && { comesBy: parsed(scene.comes_by) }),
      ...(scene.without_device !== null && { withoutDevice: scene.without_device }),
      layers: (layersByScene.get(String(scene.id)) ?? []).map((layer) => ({
        id: layer.id,
        sourceId: layer.source_id,
        landscape: placementFromRow(placements.get(`${scene.id} ${layer.id} landscape`)),
        vertical: placementFromRow(placements.get(`${scene.id} ${layer.id} vertical`)),
      })),
    })),
    transition: {
      kind: rows.shows.transition_kind,
      milliseconds: rows.shows.transition_milliseconds,
    },
    dressing: parsed(rows.shows.dressing),
    sounds: rows.sounds.map(soundFromRow),
    mixSampleRateHz: rows.shows.mix_sample_rate_hz,
    lines: linesFromRows(rows),
    lineId: rows.shows.line_id,
    words: parsed(rows.shows.words),
    destinations: destinationsFromRows(rows),
    recordings: rows.recordings.map(recordingFromRow),
    computer: parsed(rows.shows.computer),
    fit: parsed(rows.shows.fit),
    rehearsal: parsed(rows.shows.rehearsal),
    runSheet: parsed(rows.shows.run_sheet),
    keptPlans: rows.kept_plans.map(keptPlanFromRow),
  })
}
