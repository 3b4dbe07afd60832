export * from './arrival'
export * from './findings'
export * from './report'
