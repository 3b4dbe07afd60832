export * from './costs'
export * from './passes'
export * from './progressLog'
export * from './together'
