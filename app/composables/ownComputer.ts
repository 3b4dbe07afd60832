import type { MeasuringPass } from '@green-mantle/core/measured'
import { beginMeasuringComputer, fetchOwnComputer, stopMeasuringComputer } from '~/api/computer'
import { useMeasuring } from './measuring'

/** The computer that the application runs on: what is known of it, and measuring it. */
export function useOwnComputer() {
  const { known: own, attempt, ...rest } = useMeasuring(fetchOwnComputer)
  return {
    own,
    ...rest,
    measure: (pass: MeasuringPass) => attempt(() => beginMeasuringComputer(pass)),
    stop: () => attempt(stopMeasuringComputer),
  }
}
