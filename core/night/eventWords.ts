import {
  timesInWords,
  durationInWords,
  kbpsInWords,
  mbpsInWords,
  shareInWords,
  wholeNumber,
} from '../words'
import type { NightEvent } from './nightEvents'

/** What of a night's log is read as it happens; null for what only keeps the log itself. */
export function eventInWords({ happening }: Pick<NightEvent, 'happening'>): string | null {
  switch (happening.kind) {
    case 'begun':
      return 'The night begins'
    case 'over':
      return 'The night is over'
    case 'new night':
      return null
    case 'ticked':
      return happening.knowingly ? `${happening.title}, out of order` : happening.title
    case 'unticked':
      return `Taken back: ${happening.title}`
    case 'scene':
      return `Scene: ${happening.name}`
    case 'marked':
      return happening.backSeconds > 0
        ? `Kept the last ${Math.round(happening.backSeconds)} s${happening.name ? `: ${happening.name}` : ''}`
        : `Mark${happening.name ? `: ${happening.name}` : ''}`
    case 'mark named':
      return `Mark called ${happening.name || 'nothing'}`
    case 'mark removed':
      return 'A mark removed'
    case 'trouble':
      return `${happening.name}: ${happening.trouble}`
    case 'trouble over':
      return `${happening.name}: well again`
    case 'sent':
      return `${happening.name}${happening.isBackup ? ', second ingest' : ''}: ${kbpsInWords(Math.round(happening.meanKbps))} on average, ${wholeNumber(happening.lostFrames)} of ${wholeNumber(happening.sentFrames + happening.lostFrames)} frames lost${happening.isLossUnknown ? ' here; what the line lost is not known' : ''}`
    case 'carried':
      return `The line carried ${mbpsInWords(happening.meanKbps)} on average${
        happening.shortages.length > 0
          ? `, and was short ${timesInWords(happening.shortages.length)}`
          : ' and was never short'
      }`
    case 'encoded':
      return happening.processorShare === null
        ? null
        : `The ${happening.canvas} canvas took ${shareInWords(happening.processorShare)} of the processor`
    case 'recorded':
      return happening.seconds === null
        ? `${happening.name}: the file cannot be read`
        : `${happening.name}: ${durationInWords(happening.seconds)} recorded`
    case 'interrupted':
      return 'The server ended while it sent: every send and recording from here ended with it'
    case 'noted':
      return happening.text
  }
}
