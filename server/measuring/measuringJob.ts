import type { Computer } from '@green-mantle/core/show'
import { measureComputer, type MeasuringOptions, type MeasuringReport } from './measureComputer'
import { onlyJob } from './onlyJob'

const job = onlyJob<MeasuringReport>()

export const measuringState = job.state
/** Stops it; what is known by then is kept. */
export const stopMeasuring = job.stop

interface BeginOptions extends Pick<
  MeasuringOptions,
  'pass' | 'installation' | 'recordingsFolder' | 'clip'
> {
  /** Keeps what was measured, all of it or as far as it got. */
  keep: (computer: Computer) => Promise<void>
}

/** Begins to measure; false where something is being measured already. */
export const beginMeasuring = ({ keep, ...options }: BeginOptions): boolean =>
  job.begin(async (work) => {
    const { computer, doubt } = await measureComputer({ ...options, ...work })
    if (computer.devices.length === 0)
      throw new Error(doubt ?? 'It was stopped before anything was known.')
    await keep(computer)
    if (doubt) throw new Error(doubt)
  })
