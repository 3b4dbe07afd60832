import type { Show } from '../show'
import { codecNames, countInWords, gigabytesInWords, listInWords, shareInWords } from '../words'
import { firstNotCarried } from './carrying'
import { deviceUses, diskUseGigabytes, namesServed } from './encodes'

/** Something other than the line that the show as it stands is too much for. */
export interface Overload {
  /** Goes on from "The line carries it, but". */
  sentence: string
  short: string
  advice: string
}

/** What the computer and its disk cannot do of a show as it stands. */
export function overloads(
  show: Pick<Show, 'destinations' | 'recordings' | 'computer' | 'durationMinutes'>,
): Overload[] {
  const found = deviceUses(show).flatMap(({ device, encodes, load, maxLoad, impossible }) => {
    const list: Overload[] = []
    if (impossible.length > 0)
      list.push({
        sentence: `${device.name} cannot encode for ${listInWords(impossible[0] ? namesServed(impossible[0]) : [], 'and')}`,
        short: 'An encoder can’t do it',
        advice: 'Choose another device, codec, effort or size.',
      })
    if (device.sessions !== null && encodes.length > device.sessions)
      list.push({
        sentence: `${device.name} runs ${device.sessions} encodes at once, not ${encodes.length}`,
        short: 'Too many encodes at once',
        advice: 'Move one to another device, or let two destinations share one.',
      })
    if (load > maxLoad + 1e-9)
      list.push({
        sentence: `${device.name} would be ${shareInWords(load)} busy, planned to ${shareInWords(maxLoad)}`,
        short: 'The computer is overloaded',
        advice: `${countInWords(encodes.length, 'encode')} on it: less effort, fewer pixels or fewer frames help.`,
      })
    return list
  })
  const notCarried = firstNotCarried(show)
  if (notCarried)
    found.push({
      sentence: `${show.computer.measured?.program} cannot send ${codecNames[notCarried.codec]} to ${notCarried.destination.name}`,
      short: 'The encoder program can’t send it',
      advice: 'Choose H.264 there, or a newer encoder program.',
    })
  const free = show.computer.freeDiskGigabytes
  const needed = diskUseGigabytes(show)
  if (free !== null && needed > free)
    found.push({
      sentence: `the recording needs ${gigabytesInWords(needed)} of ${gigabytesInWords(free)} free`,
      short: 'The disk would be full',
      advice: 'Record at a lower bitrate, or make room.',
    })
  return found
}
