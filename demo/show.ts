import { type Show, usualDressing, usualTransition } from '@green-mantle/core/show'
import { demoDestinations } from './destinations'
import { demoLine } from './line'
import { demoScenes, demoSources } from './scenes'

/** Night Bloom at Fernhollow: a botanical glasshouse shows a flower that opens for one night. */
export const demoShow: Show = {
  title: 'Night Bloom at Fernhollow',
  startsAt: '2026-12-12T21:00',
  timeZone: 'Europe/London',
  durationMinutes: 120,
  pictureKind: 'hands',
  canvasPair: {
    framesPerSecond: 60,
    landscape: { width: 1920, height: 1080 },
    vertical: { width: 1080, height: 1920 },
  },
  sources: demoSources,
  scenes: demoScenes,
  transition: usualTransition,
  dressing: usualDressing,
  line: demoLine,
  destinations: demoDestinations,
}
