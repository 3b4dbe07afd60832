export * from './bitrateCurve'
export * from './bitsPerPixel'
export {
  type EncodedPicture,
  encodedPictureOf,
  efficiencyOf,
  codecEfficiencyOf,
  measuredEfficiency,
  type ScoredPicture,
} from './efficiency'
export * from './encoderLoad'
export * from './levels'
export * from './measuredFineness'
export * from './measuredScore'
export { monotoneCurve } from './monotoneCurve'
export * from './pictureScore'
export { type ScoreWord, scoreWords } from './pictureScoreTables'
export { pictureModelOf } from './pictureModel'
export { pictureClasses } from './pictureScoreTables'
export { sizeTerm } from './pictureTerms'
export * from './recordingSize'
export * from './sentCodecs'
export * from './encodingDelay'
