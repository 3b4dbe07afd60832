type Style = 'short' | 'long'

const formats: Record<Style, Intl.DateTimeFormat> = {
  short: formatOf('short'),
  long: formatOf('long'),
}

function formatOf(style: Style): Intl.DateTimeFormat {
  return new Intl.DateTimeFormat('en-GB', {
    weekday: style,
    day: 'numeric',
    month: style,
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
    timeZone: 'UTC',
  })
}

/**
 * A wall-clock time (`2026-12-12T21:00`) as a person reads it: "Sat 12 Dec, 21:00", or in full
 * "Saturday 12 December 2026, 21:00". Put together from its parts, since their punctuation differs
 * from one version of a browser to the next.
 */
export function wallClockInWords(wallClock: string, style: Style): string {
  const instant = new Date(`${wallClock}Z`)
  if (Number.isNaN(instant.getTime())) return wallClock
  const parts = new Map(
    formats[style].formatToParts(instant).map(({ type, value }) => [type, value]),
  )
  const [weekday, day, month] = [parts.get('weekday'), parts.get('day'), parts.get('month')]
  const year = style === 'long' ? ` ${parts.get('year')}` : ''
  return `${weekday} ${day} ${month}${year}, ${parts.get('hour')}:${parts.get('minute')}`
}
