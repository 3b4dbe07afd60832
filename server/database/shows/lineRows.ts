import type { Line } from '@green-mantle/core/show'
import { groupBy } from './groupBy'
import { jsonOrNull, parsed, type Row } from './row'

interface LineRows {
  lines: Row[]
  line_samples: Row[]
  other_traffic: Row[]
}

export function lineRows(lines: readonly Line[]): LineRows {
  return {
    lines: lines.map((line, position) => ({
      id: line.id,
      position,
      name: line.name,
      low_percentile: line.lowPercentile,
      medium: line.medium,
      headroom_percent: line.headroomPercent,
      data_cap: jsonOrNull(line.dataCap),
      local_network: JSON.stringify(line.localNetwork),
    })),
    line_samples: lines.flatMap((line) =>
      line.samples.map((sample, position) => ({
        line_id: line.id,
        id: sample.id,
        position,
        measured_at: sample.measuredAt,
        upload_kbps: sample.uploadKbps,
        medium: sample.medium,
        round_trip_milliseconds: sample.roundTripMilliseconds,
        loss_percent: sample.lossPercent,
        retransmits: sample.retransmits,
        note: sample.note,
      })),
    ),
    other_traffic: lines.flatMap((line) =>
      line.otherTraffic.map((traffic, position) => ({
        line_id: line.id,
        id: traffic.id,
        position,
        name: traffic.name,
        bitrate_kbps: traffic.bitrateKbps,
        is_on: traffic.on,
      })),
    ),
  }
}

/** Not yet checked, as all that comes from rows. */
export function linesFromRows({ lines, line_samples, other_traffic }: LineRows): unknown[] {
  const samplesByLine = groupBy(line_samples, (row) => row.line_id)
  const trafficByLine = groupBy(other_traffic, (row) => row.line_id)
  return lines.map((line) => ({
    id: line.id,
    name: line.name,
    lowPercentile: line.low_percentile,
    medium: line.medium,
    headroomPercent: line.headroom_percent,
    samples: (samplesByLine.get(String(line.id)) ?? []).map((row) => ({
      id: row.id,
      measuredAt: row.measured_at,
      uploadKbps: row.upload_kbps,
      medium: row.medium,
      roundTripMilliseconds: row.round_trip_milliseconds,
      lossPercent: row.loss_percent,
      retransmits: row.retransmits,
      note: row.note,
    })),
    otherTraffic: (trafficByLine.get(String(line.id)) ?? []).map((row) => ({
      id: row.id,
      name: row.name,
      bitrateKbps: row.bitrate_kbps,
      on: Boolean(row.is_on),
    })),
    dataCap: parsed(line.data_cap),
    localNetwork: parsed(line.local_network),
  }))
}
