export * from './arrival'
export * from './findings'
export * from './frameLines'
export * from './report'
