export * from './judging'
export * from './trial'
