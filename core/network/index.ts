export { framing } from './framingTables'
export * from './percentile'
export * from './usableUpload'
export * from './wireRate'
