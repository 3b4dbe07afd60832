import type { Destination } from './destination'

/**
 * The stream name of each rendition of a ladder, in order: the name as it is for the main one, then
 * with 2 and 3 appended (common practice, no published source). Empty names where none is given.
 */
export function streamNames({
  streamName,
  renditions,
}: Pick<Destination, 'streamName' | 'renditions'>): string[] {
  return renditions.map((_, index) =>
    streamName === '' || index === 0 ? streamName : `${streamName}${index + 1}`,
  )
}
