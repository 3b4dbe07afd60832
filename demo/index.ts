export { demoShow } from './show'
