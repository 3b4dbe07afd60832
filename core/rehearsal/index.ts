export * from './headroom'
export * from './planKey'
export * from './remedies'
