import type { OwnPicture } from './ownPicture'
import { type PictureChoice, type PictureKind, pictureKinds } from './pictureKind'

/** What a picture is judged by: values of its kind, or what was measured of one's own. */
export type Picture = PictureKind | OwnPicture

/** What a show's picture is judged by. */
export function pictureOf({
  pictureKind,
  ownPicture,
}: {
  pictureKind: PictureChoice
  ownPicture: OwnPicture | null
}): Picture {
  if (pictureKind !== 'own') return pictureKind
  // The schema lets nobody choose what was never measured.
  return ownPicture ?? pictureKinds[0]
}
