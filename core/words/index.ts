export * from './names'
export * from './numbersInWords'
export * from './quantity'
export * from './times'
