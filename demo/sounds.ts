import { newSound, type Sound } from '@green-mantle/core/show'

/** What is heard: two microphones, the computer, a music bed that may not be kept, and a camera left out. */
export const demoSounds: Sound[] = [
  {
    ...newSound('lapel', 'Lapel microphone', 'microphone'),
    input: 'Lapel receiver',
    levelDecibels: 2,
    delayMilliseconds: 60,
  },
  {
    ...newSound('room', 'Room microphone', 'microphone'),
    input: 'Room boundary microphone',
    levelDecibels: -12,
    channels: 2,
    noiseSuppression: false,
    delayMilliseconds: 60,
  },
  {
    ...newSound('computer', 'Computer sound', 'computer sound'),
    input: 'This computer',
    levelDecibels: -6,
  },
  { ...newSound('bed', 'Music bed', 'music'), input: 'Music player', levelDecibels: -18 },
  {
    ...newSound('bench-own', 'Bench camera’s own', 'own sound'),
    sourceId: 'bench-camera',
    input: 'Bench camera microphone',
    mixes: { live: false, archive: false },
    alsoHeardIn: ['lapel', 'room'],
  },
]
