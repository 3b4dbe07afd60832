import { withoutOrphans } from '../compareShows'
import type { Device } from '../encoder'
import type { Show } from '../show'
import { changedById } from './changedById'

type WithComputer = Pick<Show, 'computer'>

/** A show with one device of its computer changed. */
export const withDevice = <Shown extends WithComputer>(
  show: Shown,
  id: string,
  change: (device: Device) => Device,
): Shown => ({
  ...show,
  computer: { ...show.computer, devices: changedById(show.computer.devices, id, change) },
})

/** A show in which what was encoded on a device that is gone waits for another one. */
export function withoutGoneDevices(show: Show): Show {
  const { destinations, recordings } = withoutOrphans(show)
  return { ...show, destinations, recordings }
}
