import type { MeasuringPass } from '@green-mantle/core/measured'
import { beginMeasuringComputer, fetchOwnComputer, stopMeasuringComputer } from '~/api/computer'
import type { StoredClip } from '~/api/pictures'
import { useMeasuring } from './measuring'

/** The computer that the application runs on: what is known of it, and measuring it. */
export function useOwnComputer() {
  const { known: own, attempt, ...rest } = useMeasuring(fetchOwnComputer)
  return {
    own,
    ...rest,
    measure: (pass: MeasuringPass, clip: () => Promise<StoredClip | null>) =>
      attempt(async () => beginMeasuringComputer(pass, await clip())),
    stop: () => attempt(stopMeasuringComputer),
  }
}
