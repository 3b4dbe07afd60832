import { type PictureChoice, pictureKinds, type Show } from '@green-mantle/core/show'
import { pictureKindNames } from '@green-mantle/core/words'

/** What a show's picture can be judged by: the kinds, and what was measured where anything was. */
export function pictureChoicesFor({
  ownPicture,
}: Pick<Show, 'ownPicture'>): { value: PictureChoice; label: string }[] {
  const kinds = pictureKinds.map((value) => ({ value, label: pictureKindNames[value] }))
  return ownPicture ? [...kinds, { value: 'own', label: `my clip: ${ownPicture.name}` }] : kinds
}
