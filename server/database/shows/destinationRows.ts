import type { Destination } from '@green-mantle/core/show'
import { groupBy } from './groupBy'
import { jsonOrNull, parsed, type Row } from './row'

interface DestinationRows {
  destinations: Row[]
  renditions: Row[]
}

export function destinationRows(destinations: readonly Destination[]): DestinationRows {
  return {
    destinations: destinations.map((destination, position) => ({
      id: destination.id,
      position,
      name: destination.name,
      note: destination.note,
      canvas: destination.canvas,
      connection: destination.connection,
      protocol: destination.protocol,
      is_on: destination.on,
      plan: JSON.stringify(destination.plan),
      profile: jsonOrNull(destination.profile),
      server_address: destination.serverAddress,
      backup_address: destination.backupAddress,
      stream_name: destination.streamName,
      account: jsonOrNull(destination.account),
      relay_id: destination.relayId,
      hand_off: JSON.stringify(destination.handOff),
      path: JSON.stringify(destination.path),
      words: JSON.stringify(destination.words),
      chat_address: destination.chatAddress,
      chat_read_by: destination.chatReadBy,
      lag_seconds: destination.lagSeconds,
      sending: JSON.stringify(destination.sending),
      viewers: JSON.stringify(destination.viewers),
      cover_zones: JSON.stringify(destination.coverZones),
      rules: JSON.stringify(destination.rules),
    })),
    renditions: destinations.flatMap((destination) =>
      destination.renditions.map((rendition, position) => ({
        destination_id: destination.id,
        id: rendition.id,
        position,
        width: rendition.width,
        height: rendition.height,
        frames_per_second: rendition.framesPerSecond,
        codec: rendition.codec,
        effort: rendition.effort,
        video_bitrate_kbps: rendition.videoBitrateKbps,
        keyframe_interval_seconds: rendition.keyframeIntervalSeconds,
        b_frames: rendition.bFrames,
        audio_codec: rendition.audioCodec,
        audio_bitrate_kbps: rendition.audioBitrateKbps,
        audio_channels: rendition.audioChannels,
        audio_sample_rate_hz: rendition.audioSampleRateHz,
        encoder: JSON.stringify(rendition.encoder),
        pins: JSON.stringify(rendition.pins),
      })),
    ),
  }
}

function renditionFromRow(row: Row): unknown {
  return {
    id: row.id,
    width: row.width,
    height: row.height,
    framesPerSecond: row.frames_per_second,
    codec: row.codec,
    effort: row.effort,
    videoBitrateKbps: row.video_bitrate_kbps,
    keyframeIntervalSeconds: row.keyframe_interval_seconds,
    bFrames: row.b_frames,
    audioCodec: row.audio_codec,
    audioBitrateKbps: row.audio_bitrate_kbps,
    audioChannels: row.audio_channels,
    audioSampleRateHz: row.audio_sample_rate_hz,
    encoder: parsed(row.encoder),
    pins: parsed(row.pins),
  }
}

/** Not yet checked, as all that comes from rows. */
export function destinationsFromRows({ destinations, renditions }: DestinationRows): unknown[] {
  const byDestination = groupBy(renditions, (row) => row.destination_id)
  return destinations.map((row) => ({
    id: row.id,
    name: row.name,
    note: row.note,
    canvas: row.canvas,
    connection: row.connection,
    protocol: row.protocol,
    on: Boolean(row.is_on),
    plan: parsed(row.plan),
    profile: parsed(row.profile),
    serverAddress: row.server_address,
    backupAddress: row.backup_address,
    streamName: row.stream_name,
    account: parsed(row.account),
    relayId: row.relay_id,
    handOff: parsed(row.hand_off),
    path: parsed(row.path),
    words: parsed(row.words),
    chatAddress: row.chat_address,
    chatReadBy: row.chat_read_by,
    lagSeconds: row.lag_seconds,
    sending: parsed(row.sending),
    viewers: parsed(row.viewers),
    coverZones: parsed(row.cover_zones),
    rules: parsed(row.rules),
    renditions: (byDestination.get(String(row.id)) ?? []).map(renditionFromRow),
  }))
}
