import type { StepName } from '@green-mantle/core/marks'

/**
 * The steps that work, each with its place in the order of the whole job (Alt and that digit), so
 * that the digits stay the same as further steps come.
 */
export const steps = [
  { name: 'canvases', label: 'Canvases', digit: 1 },
  { name: 'sound', label: 'Sound', digit: 2 },
  { name: 'line', label: 'Line', digit: 3 },
  { name: 'destinations', label: 'Destinations', digit: 4 },
  { name: 'fit', label: 'Fit', digit: 5 },
  { name: 'rehearse', label: 'Rehearse', digit: 6 },
  { name: 'run-sheet', label: 'Run sheet', digit: 7 },
] as const satisfies { name: StepName; label: string; digit: number }[]
