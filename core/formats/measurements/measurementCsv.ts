import papaparse from 'papaparse'
import type { Medium } from '../../show'
import { readQuantity } from '../../words'
import {
  type DraftResult,
  type DraftSample,
  type MeasurementDefaults,
  type RateUnit,
  rateUnitsKbps,
} from './draft'
import { readWrittenTime } from './writtenTime'

const columnNames = {
  time: /time|date|when|measured/i,
  rate: /upload|rate|speed|bandwidth|throughput|bit\/?s|bps|^up\b/i,
  medium: /medium|^by$|link|via|connection/i,
  roundTrip: /round|rtt|ping|latency/i,
  loss: /loss|lost/i,
  retransmits: /retrans|retries|sent again/i,
  note: /note|comment|remark/i,
} as const
type Column = keyof typeof columnNames

const unitsInHeaders: readonly [RegExp, RateUnit][] = [
  [/m(ega)?bit|mb\/s|mbps/i, 'Mb/s'],
  [/k(ilo)?bit|kb\/s|kbps/i, 'kb/s'],
  [/bits? ?(\/|per )s|bps|b\/s/i, 'bit/s'],
]

const mediumWords: readonly [RegExp, Medium][] = [
  [/cable|wire\b|wired|ethernet|lan\b(?<!wlan)/i, 'cable'],
  [/wi-?fi|wlan|wireless/i, 'wifi'],
  [/mobile|cell|lte|[345]g/i, 'mobile'],
]

const damaged = (place: string, message: string): DraftResult => ({
  ok: false,
  reason: 'damaged',
  place,
  message,
})
const quoted = (text: string): string => `"${text.slice(0, 40)}"`
const isNumber = (text: string): boolean => readQuantity(text).ok

/** Which column holds what; null where the first line is no header. */
function columnsOf(header: readonly string[]): Partial<Record<Column, number>> | null {
  if (header.every((cell) => cell === '' || isNumber(cell))) return null
  const columns: Partial<Record<Column, number>> = {}
  header.forEach((cell, index) => {
    const found = (Object.keys(columnNames) as Column[]).find(
      (column) => columns[column] === undefined && columnNames[column].test(cell),
    )
    if (found) columns[found] = index
  })
  return columns
}

interface Row {
  /** Counted from 1, as an editor does. */
  line: number
  cells: string[]
}

function readRow(
  { line, cells }: Row,
  columns: Partial<Record<Column, number>>,
  factorKbps: number,
  defaults: MeasurementDefaults,
): DraftSample | DraftResult {
  const place = `line ${line}`
  const cell = (column: Column): string => {
    const index = columns[column]
    return index === undefined ? '' : (cells[index] ?? '').trim()
  }
  const rate = readQuantity(cell('rate'))
  if (!rate.ok) return damaged(`${place}, upload`, rate.message)
  const time = cell('time')
  const measuredAt = time === '' ? defaults.measuredAt : readWrittenTime(time, defaults.timeZone)
  if (measuredAt === null) return damaged(`${place}, time`, `${quoted(time)} is no date and time`)
  const optional = (column: 'roundTrip' | 'loss' | 'retransmits', least: number, most: number) => {
    if (cell(column) === '') return null
    const read = readQuantity(cell(column), { ms: 1, '%': 1 })
    return read.ok && read.value >= least && read.value <= most ? read.value : undefined
  }
  const roundTripMilliseconds = optional('roundTrip', 0, 60_000)
  if (roundTripMilliseconds === undefined)
    return damaged(
      `${place}, round trip`,
      `${quoted(cell('roundTrip'))} is no time from 0 to 60,000 ms`,
    )
  const lossPercent = optional('loss', 0, 100)
  if (lossPercent === undefined)
    return damaged(`${place}, loss`, `${quoted(cell('loss'))} is no share from 0 to 100 %`)
  const retransmits = optional('retransmits', 0, Number.MAX_SAFE_INTEGER)
  if (retransmits === undefined)
    return damaged(`${place}, retransmits`, `${quoted(cell('retransmits'))} is no number`)
  const medium =
    cell('medium') === ''
      ? defaults.medium
      : mediumWords.find(([pattern]) => pattern.test(cell('medium')))?.[1]
  if (!medium)
    return damaged(
      `${place}, medium`,
      `${quoted(cell('medium'))} is neither cable, Wi-Fi nor mobile`,
    )
  return {
    place,
    measuredAt,
    uploadKbps: rate.value * factorKbps,
    medium,
    roundTripMilliseconds,
    lossPercent,
    retransmits: retransmits === null ? null : Math.round(retransmits),
    note: cell('note').slice(0, 200),
  }
}

/** Reads CSV (RFC 4180, and its cousins with semicolons or tabs) or a bare column of rates. */
export function readMeasurementCsv(text: string, defaults: MeasurementDefaults): DraftResult {
  const { data, errors } = papaparse.parse(text.replace(/^\uFEFF/, ''))
  // A single column has no separator to be found, which is no fault.
  const fault = errors.find(({ message }) => !/auto-detect/i.test(message))
  if (fault) return damaged(`line ${(fault.row ?? 0) + 1}`, fault.message.toLowerCase())
  const rows = data
    .map((cells, index): Row => ({ line: index + 1, cells }))
    .filter(({ cells }) => cells.some((cell) => cell.trim() !== ''))
  const [first] = rows
  if (!first) return damaged('the whole text', 'nothing is in it')
  const header = columnsOf(first.cells.map((cell) => cell.trim()))
  if (header && header.rate === undefined)
    return damaged(
      `line ${first.line}`,
      `no column says upload or rate (${first.cells
        .map((cell) => quoted(cell.trim()))
        .join(', ')
        .slice(0, 120)})`,
    )
  const columns = header ?? { rate: 0 }
  const named = header ? (first.cells[header.rate ?? 0] ?? '') : ''
  const unit = unitsInHeaders.find(([pattern]) => pattern.test(named))?.[1] ?? defaults.unit
  if (!unit) return { ok: false, reason: 'unit needed' }
  const samples: DraftSample[] = []
  for (const row of header ? rows.slice(1) : rows) {
    const read = readRow(row, columns, rateUnitsKbps[unit], defaults)
    if ('ok' in read) return read
    samples.push(read)
  }
  return { ok: true, samples }
}
