import { showFileLimitBytes } from '@green-mantle/core/formats'
import type { Destination, Show } from '@green-mantle/core/show'

export function download(name: string, type: string, content: BlobPart): void {
  const address = URL.createObjectURL(new Blob([content], { type }))
  const anchor = document.createElement('a')
  anchor.href = address
  anchor.download = name
  anchor.click()
  // The browser may still be reading it.
  setTimeout(() => URL.revokeObjectURL(address), 10_000)
}

const characters = new Intl.Segmenter('en', { granularity: 'grapheme' })

/** A title as a file name that every system takes. */
export function fileNameFor(title: string): string {
  const clean = title
    .replaceAll(/[\p{Cc}<>:"/\\|?*]/gu, ' ')
    .replaceAll(/\s+/g, ' ')
    .replaceAll(/^[. ]+|[. ]+$/g, '')

  // Whole characters as a person sees them: half of one is no name.
  const whole = Array.from(characters.segment(clean), ({ segment }) => segment)
  return whole.slice(0, 100).join('') || 'show'
}

// What writes a file is loaded when it is first asked for.

export async function downloadShowFile(show: Show): Promise<void> {
  const { showFileExtension, writeShowFile } = await import('@green-mantle/core/formats')
  download(
    `${fileNameFor(show.title)}${showFileExtension}`,
    'application/json',
    writeShowFile(show),
  )
}

export async function downloadSettingsSheet(show: Show): Promise<void> {
  const { writeSettingsSheet } = await import('@green-mantle/core/formats')
  download(
    `${fileNameFor(show.title)} settings.csv`,
    'text/csv;charset=utf-8',
    writeSettingsSheet(show),
  )
}

export async function downloadPlanFile(show: Show): Promise<void> {
  const { planFileExtension, writePlanFile } = await import('@green-mantle/core/formats')
  download(
    `${fileNameFor(show.title)}${planFileExtension}`,
    'application/json',
    writePlanFile(show),
  )
}

/** The plan as a script for a general-purpose encoder; it holds no address and no key. */
export async function downloadEncoderScript(show: Show): Promise<void> {
  const { encoderScriptExtension, writeEncoderScript } = await import('@green-mantle/core/formats')
  download(
    `${fileNameFor(show.title)}${encoderScriptExtension}`,
    'text/x-shellscript;charset=utf-8',
    writeEncoderScript(show),
  )
}

export async function downloadPlaylist(destination: Destination): Promise<void> {
  const { playlistExtension, writeMultivariantPlaylist } =
    await import('@green-mantle/core/formats')
  download(
    `${fileNameFor(destination.name)}${playlistExtension}`,
    'application/vnd.apple.mpegurl',
    writeMultivariantPlaylist(destination),
  )
}

/** The run-up to a show for a calendar. */
export async function downloadCalendar(show: Show, showId: string): Promise<void> {
  const { calendarExtension, writeCalendar } = await import('@green-mantle/core/calendar')
  download(
    `${fileNameFor(show.title)}${calendarExtension}`,
    'text/calendar;charset=utf-8',
    writeCalendar(show, showId, new Date()),
  )
}

/** Asks for files; none where the person thought better of it. */
export function chooseFiles(accept: string, multiple = true): Promise<File[]> {
  return new Promise((resolve) => {
    const input = document.createElement('input')
    Object.assign(input, { type: 'file', accept, multiple })
    input.addEventListener('cancel', () => resolve([]))
    input.addEventListener('change', () => resolve([...(input.files ?? [])]))
    input.click()
  })
}

/** Asks for a file; null where the person thought better of it. */
export const chooseFile = async (accept: string): Promise<File | null> =>
  (await chooseFiles(accept, false))[0] ?? null

/** Asks for a file and gives its text; null where the person thought better of it. */
export async function chooseTextFile(
  accept: string,
  limitBytes: number = showFileLimitBytes,
): Promise<{ name: string; text: string } | null> {
  const file = await chooseFile(accept)
  if (!file) return null
  // One byte over the limit is enough for the reader to refuse it; the rest need not be read.
  const text = await file.slice(0, limitBytes + 1).text()
  return { name: file.name, text }
}

const endings: Record<string, string> = { mkv: 'video/x-matroska', mov: 'video/quicktime' }
/** The media type of a file; some browsers know none for some endings. */
export const typeOfFile = (file: File): string =>
  file.type || (endings[file.name.split('.').at(-1)?.toLowerCase() ?? ''] ?? '')
