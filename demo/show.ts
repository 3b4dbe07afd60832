import {
  type Computer,
  type Show,
  defaultDressing,
  defaultFitSettings,
  defaultRehearsal,
  defaultRunSheet,
  defaultTransition,
} from '@green-mantle/core/show'
import { demoComputers } from './computers'
import { demoDestinations, demoRecording } from './destinations'
import { demoLines } from './line'
import { demoScenes, demoSources } from './scenes'
import { demoSounds } from './sounds'

/** Night Bloom at Fernhollow: a botanical glasshouse shows a flower that opens for one night. */
export const demoShow: Show = {
  title: 'Night Bloom at Fernhollow',
  startsAt: '2026-12-12T21:00',
  timeZone: 'Europe/London',
  durationMinutes: 120,
  pictureKind: 'hands',
  ownPicture: null,
  canvasPair: {
    framesPerSecond: 60,
    landscape: { width: 1920, height: 1080 },
    vertical: { width: 1080, height: 1920 },
  },
  sources: demoSources,
  scenes: demoScenes,
  transition: defaultTransition,
  dressing: defaultDressing,
  sounds: demoSounds,
  mixSampleRateHz: 48_000,
  lines: demoLines,
  lineId: 'glasshouse',
  words: {
    description:
      'A night-blooming cactus opens once a year, in one night. Watch it live with us from the glasshouse, bud to flower, with the growth chart beside it and time for your questions.',
    category: 'Plants and gardens',
    tags: ['night bloom', 'glasshouse', 'cactus', 'live'],
    language: 'en',
    audience: 'public',
    thumbnail: null,
  },
  destinations: demoDestinations,
  recordings: [demoRecording],
  computer: demoComputers[0] as Computer,
  // Every cell as it was once set by hand.
  fit: { ...defaultFitSettings, automatic: false },
  rehearsal: defaultRehearsal,
  runSheet: {
    ...defaultRunSheet,
    people: [
      { id: 'ines', name: 'Ines' },
      { id: 'oke', name: 'Oke' },
    ],
    ownTasks: [
      {
        id: 'own-half-time',
        title: 'Seed fund half time',
        kind: 'act',
        phase: 'on air',
        atSeconds: 4200,
        destinationId: null,
        personId: 'ines',
      },
    ],
  },
  keptPlans: [],
}

/** The same show with the planner at work, as it is first shown to people. */
export const plannedDemoShow: Show = { ...demoShow, fit: defaultFitSettings }
