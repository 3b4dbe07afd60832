export { demoComputers } from './computers'
export { demoProfiles } from './profiles'
export { demoShow, plannedDemoShow } from './show'
