import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { beginMeasurement, echo, endMeasurement, sendBytes } from '~/api/line'
import { measureUpload } from '~/measuring/measureUpload'

vi.mock('~/api/line', () => ({
  beginMeasurement: vi.fn(() => Promise.resolve('m1')),
  endMeasurement: vi.fn(() => Promise.resolve()),
  echo: vi.fn(),
  sendBytes: vi.fn(),
}))

const pause = (milliseconds: number, signal?: AbortSignal): Promise<void> =>
  new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, milliseconds)
    signal?.addEventListener('abort', () => {
      clearTimeout(timer)
      reject(new DOMException('cut off', 'AbortError'))
    })
  })

/** A line that takes so many bytes in a millisecond from each connection. */
const takes = (bytesPerMillisecond: number) =>
  vi
    .mocked(sendBytes)
    .mockImplementation((_id, body, signal) => pause(body.size / bytesPerMillisecond, signal))

beforeEach(() => {
  vi.useFakeTimers({
    toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'performance', 'Date'],
  })
  vi.mocked(echo).mockImplementation(() => pause(40))
})
afterEach(() => {
  vi.useRealTimers()
  vi.clearAllMocks()
})

const measure = (changes: Partial<Parameters<typeof measureUpload>[0]> = {}) =>
  measureUpload({
    connections: 4,
    durationSeconds: 20,
    practice: null,
    signal: new AbortController().signal,
    onSecond: () => {},
    ...changes,
  })

describe('measuring', () => {
  it('gives the rate of all connections together, in whole stretches, with the round trip', async () => {
    // 250 bytes in a millisecond are 2000 kb/s; four connections make 8000, less what whole
    // milliseconds round.
    takes(250)
    const seconds: number[][] = []
    const measuring = measure({ onSecond: (rates) => seconds.push(rates) })
    await vi.advanceTimersByTimeAsync(30_000)
    const { rates, roundTripMilliseconds } = await measuring
    expect(rates).toHaveLength(4)
    for (const { uploadKbps } of rates) expect(uploadKbps).toBeCloseTo(8000, -2)
    expect(roundTripMilliseconds).toBe(40)
    expect(rates[1]!.measuredAt.getTime() - rates[0]!.measuredAt.getTime()).toBe(5000)
    expect(seconds.at(-1)!.length).toBeGreaterThan(15)
    expect(endMeasurement).toHaveBeenCalledWith('m1')
  })

  it('asks the server for as long as it sends, the warm-up included', async () => {
    takes(250)
    const measuring = measure({ durationSeconds: 10 })
    await vi.advanceTimersByTimeAsync(15_000)
    await measuring
    expect(beginMeasurement).toHaveBeenCalledWith({ durationSeconds: 11, practice: null })
  })

  it('keeps what there is when it is stopped', async () => {
    takes(250)
    const stop = new AbortController()
    const measuring = measure({ signal: stop.signal })
    await vi.advanceTimersByTimeAsync(8000)
    stop.abort()
    await vi.advanceTimersByTimeAsync(100)
    const { rates } = await measuring
    expect(rates).toHaveLength(1)
    expect(rates[0]!.uploadKbps).toBeCloseTo(8000, -2)
    expect(endMeasurement).toHaveBeenCalledTimes(1)
  })

  it('does not wait for ever on a line that is dead', async () => {
    vi.mocked(sendBytes).mockImplementation((_id, _body, signal) => pause(1e9, signal))
    const measuring = measure()
    await vi.advanceTimersByTimeAsync(25_000)
    const { rates } = await measuring
    expect(rates.map(({ uploadKbps }) => uploadKbps)).toEqual([0, 0, 0, 0])
  })

  it('says what the server refused, and ends the measurement', async () => {
    vi.mocked(sendBytes).mockRejectedValue(new Error('Too many measurements'))
    const refused = expect(measure()).rejects.toThrow('Too many measurements')
    await vi.advanceTimersByTimeAsync(1000)
    await refused
    expect(endMeasurement).toHaveBeenCalledTimes(1)
  })
})
