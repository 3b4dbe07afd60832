import type { OwnPicture } from '@green-mantle/core/show'
import { measurePicture, type PictureOptions, type PictureReport } from './measurePicture'
import { onlyJob } from './onlyJob'

const job = onlyJob<PictureReport>()

export const pictureState = job.state
/** Stops it; what is known by then is kept, where it is enough. */
export const stopPicture = job.stop

interface BeginOptions extends Pick<PictureOptions, 'clips'> {
  keep: (picture: OwnPicture) => Promise<void>
}

/** Begins to measure a clip; false where something is being measured already. */
export const beginPicture = ({ keep, ...options }: BeginOptions): boolean =>
  job.begin(async (work) => keep(await measurePicture({ ...options, ...work })))
