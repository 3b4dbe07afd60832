export * from './dressingFile'
export type { JsonFileFailure } from './jsonFile'
export * from './settingsSheet'
export * from './showFile'
