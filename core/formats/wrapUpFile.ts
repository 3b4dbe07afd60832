import type { WrapUp } from '../night'
import type { Show } from '../show'

export const wrapUpFileFormat = 'green-mantle-wrap-up'
export const wrapUpFileVersion = 1

/** What was planned against what happened, as open JSON; no address and no key is in it. */
export const writeWrapUp = (
  { title, startsAt, timeZone, durationMinutes }: Show,
  wrapUp: WrapUp,
): string =>
  `${JSON.stringify(
    {
      format: wrapUpFileFormat,
      version: wrapUpFileVersion,
      show: { title, startsAt, timeZone, durationMinutes },
      wrapUp,
    },
    null,
    2,
  )}\n`
