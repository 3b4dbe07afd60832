export * from './settingsSheet'
export * from './showFile'
