import type { OwnPicture, Picture, PictureKind, Size } from '../show'
import { measuredFineness } from './measuredFineness'
import { type PictureClass, pictureClasses } from './pictureScoreTables'

type Shape = Size & { framesPerSecond: number }

/** What the score of a picture is computed from. */
export interface PictureModel {
  values: PictureClass
  nearestKind: PictureKind
  /** By shape and ln(bitrate ÷ what a clean picture needs), where it was measured; null where it is all model. */
  measured: ((shape: Shape) => (logShare: number) => number) | null
  /** ln(bitrate ÷ what a clean picture needs) from which more no longer helps. */
  saturatesAt: number
  /** The quantisation term of a shape with all the bits it can use. */
  finest(shape: Shape): number
}

const ofKind = (kind: PictureKind): PictureModel => ({
  values: pictureClasses[kind],
  nearestKind: kind,
  measured: null,
  saturatesAt: 0,
  finest: () => 1,
})
const ofKinds: Record<PictureKind, PictureModel> = {
  talking: ofKind('talking'),
  hands: ofKind('hands'),
  action: ofKind('action'),
}

function ofMeasured(picture: OwnPicture): PictureModel {
  const values = {
    ...pictureClasses[picture.nearestKind],
    cleanBitrateKbps: picture.cleanBitrateKbps,
  }
  const { at, saturatesAt } = measuredFineness(picture, values)
  return {
    values,
    nearestKind: picture.nearestKind,
    measured: at,
    saturatesAt,
    finest: (shape) => at(shape)(saturatesAt),
  }
}

/** Worked out once for a picture of one's own; what is no longer used is let go. */
const known = new WeakMap<OwnPicture, PictureModel>()

/** The kind that a picture is, or that it is most like. */
export const nearestKindOf = (picture: Picture): PictureKind =>
  typeof picture === 'string' ? picture : picture.nearestKind

/** What the score of a picture is computed from: the values of its kind, or what was measured. */
export function pictureModelOf(picture: Picture): PictureModel {
  if (typeof picture === 'string') return ofKinds[picture]
  const model = known.get(picture) ?? ofMeasured(picture)
  known.set(picture, model)
  return model
}
