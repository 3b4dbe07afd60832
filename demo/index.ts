export { demoProfiles } from './profiles'
export { demoShow } from './show'
