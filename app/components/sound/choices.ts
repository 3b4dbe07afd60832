import { audioSampleRatesHz } from '@green-mantle/core/show'
import { sampleRateInWords } from '@green-mantle/core/words'

/** What can be chosen for a sound and for the audio of a send alike. */
export const channelChoices = [
  { value: 1, label: 'mono' },
  { value: 2, label: 'stereo' },
] as const
export const sampleRateChoices = audioSampleRatesHz.map((value) => ({
  value,
  label: sampleRateInWords(value),
}))
