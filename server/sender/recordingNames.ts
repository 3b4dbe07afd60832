import { join } from 'node:path'
import { safeFileName } from '../files/safeFileName'

/** What a recording is known by: the recording of the show, as it is called there. */
interface Recorded {
  ownerId: string
  name: string
}

/**
 * Names the files of one night's recordings: each has its own though two may be called the same, also on
 * systems that take large and small letters for one, and another each time its encoder begins anew.
 */
export function recordingNames(
  folder: string,
  title: string,
  begunAt: Date,
): (recorded: Recorded, attempt: number) => string {
  const begun = begunAt.toISOString().slice(0, 19).replaceAll(':', '-')
  const owners = new Map<string, string>()
  const ownName = ({ ownerId, name }: Recorded): string => {
    const safe = safeFileName(name)
    for (let number = 1; ; number += 1) {
      const tried = number === 1 ? safe : `${safe} ${number}`
      const owner = owners.get(tried.toLowerCase())
      if (owner !== undefined && owner !== ownerId) continue
      owners.set(tried.toLowerCase(), ownerId)
      return tried
    }
  }
  return (recorded, attempt) => {
    const again = attempt === 0 ? '' : ` (${attempt + 1})`
    return join(folder, `${safeFileName(title)}, ${ownName(recorded)}, ${begun}${again}.mkv`)
  }
}
