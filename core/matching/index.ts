export * from './matchCheck'
export * from './proposals'
