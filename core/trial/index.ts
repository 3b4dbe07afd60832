export * from './judging'
export * from './linedUp'
export * from './trial'
