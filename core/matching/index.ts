export * from './matchCheck'
export * from './practice/pairs'
export * from './proposals'
