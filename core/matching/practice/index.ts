export { withAddedByPractice } from './arrange'
export * from './beginnings'
