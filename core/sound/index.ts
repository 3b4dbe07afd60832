export * from './level'
export * from './soundChecks'
