/** What a meter shows where there is nothing at all. */
export const silenceDecibels = -90

/** The level of a stretch of samples between −1 and 1: root mean square in dBFS, no lower than silence. */
export function levelOfSamples(samples: Iterable<number> & ArrayLike<number>): number {
  let sum = 0
  for (const sample of samples) sum += sample ** 2
  const rms = Math.sqrt(sum / Math.max(1, samples.length))
  return Math.max(silenceDecibels, 20 * Math.log10(Math.max(rms, Number.MIN_VALUE)))
}

/** How far along a meter from silence to full scale a level stands, 0 to 1. */
export function levelShare(decibels: number): number {
  return Math.min(1, Math.max(0, 1 - decibels / silenceDecibels))
}

/** What stands in for a real input where the browser shows none; their levels are invented. */
export const standInInputs = [
  { name: 'Lapel receiver', decibels: -20, swing: 9, periodSeconds: 2.3 },
  { name: 'Room boundary microphone', decibels: -32, swing: 5, periodSeconds: 3.7 },
  { name: 'Bench camera microphone', decibels: -30, swing: 6, periodSeconds: 2.9 },
  { name: 'This computer', decibels: -26, swing: 4, periodSeconds: 5.1 },
  { name: 'Music player', decibels: -16, swing: 3, periodSeconds: 1.3 },
] as const

/** The level of a stand-in at a time: two swings on top of each other, so that it moves as speech or music does. */
export function standInLevel(name: string, seconds: number): number {
  const input = standInInputs.find((candidate) => candidate.name === name)
  if (!input) return silenceDecibels
  const turn = (2 * Math.PI * seconds) / input.periodSeconds
  return input.decibels + (input.swing * (Math.sin(turn) + Math.sin(turn * 2.7))) / 2
}
