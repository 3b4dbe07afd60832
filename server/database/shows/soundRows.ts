import type { Sound } from '@green-mantle/core/show'
import { parsed, type Row } from './row'

export function soundRows(sounds: readonly Sound[]): Row[] {
  return sounds.map((sound, position) => ({
    id: sound.id,
    position,
    name: sound.name,
    kind: sound.kind,
    source_id: sound.sourceId,
    input: sound.input,
    level_decibels: sound.levelDecibels,
    muted: sound.muted,
    channels: sound.channels,
    sample_rate_hz: sound.sampleRateHz,
    noise_suppression: sound.noiseSuppression,
    delay_milliseconds: sound.delayMilliseconds,
    in_live_mix: sound.mixes.live,
    in_archive_mix: sound.mixes.archive,
    also_heard_in: JSON.stringify(sound.alsoHeardIn),
    may_be_kept: sound.mayBeKept,
  }))
}

/** Not yet checked, as all that comes from rows. */
export function soundFromRow(row: Row): unknown {
  return {
    id: row.id,
    name: row.name,
    kind: row.kind,
    sourceId: row.source_id,
    input: row.input,
    levelDecibels: row.level_decibels,
    muted: Boolean(row.muted),
    channels: row.channels,
    sampleRateHz: row.sample_rate_hz,
    noiseSuppression: Boolean(row.noise_suppression),
    delayMilliseconds: row.delay_milliseconds,
    mixes: { live: Boolean(row.in_live_mix), archive: Boolean(row.in_archive_mix) },
    alsoHeardIn: parsed(row.also_heard_in),
    mayBeKept: Boolean(row.may_be_kept),
  }
}
