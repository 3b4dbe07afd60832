/** Longer texts are no help page's rules. */
export const longestHelpText = 100_000
const longestStatement = 400
/** A page of rules has some hundred; what comes after so many is not read. */
export const mostStatements = 2000

/** A line, or a cell of a table with what its column and row are called. */
export interface Statement {
  /** As it stands on the page. */
  words: string
  /** What it is about by its heading, or by the line above it; read along, never quoted. */
  heading: string
}

const isHeadingLike = (cell: string): boolean => /\p{L}/u.test(cell) && !/\d{2}/.test(cell)

/** Cells of a line of a table: between tabs, upright strokes, or three spaces and more. */
function cellsOf(line: string): string[] {
  const inner = line.replace(/^\s*\|/, '').replace(/\|\s*$/, '')
  const split = inner.includes('\t')
    ? inner.split('\t')
    : inner.includes('|')
      ? inner.split('|')
      : inner.trim().split(/\s{3,}/)
  return split.map((cell) => cell.trim())
}

const isRule = (line: string): boolean => line.includes('--') && /^[\s|:+-]+$/.test(line)

/** Line breaks in the middle of a sentence, as mails and narrow columns have them, are taken out. */
function unwrapped(lines: readonly string[]): string[] {
  const joined: string[] = []
  for (const line of lines) {
    const before = joined.at(-1)
    const goesOn = /^\s*[a-z(]/.test(line) && !line.includes('\t') && !line.includes('|')
    if (before && goesOn && /[\p{L}\d,]$/u.test(before) && before.length > 30)
      joined[joined.length - 1] = `${before} ${line.trim()}`
    else joined.push(line)
  }
  return joined
}

/** What a heading has to name to say something of the line below it. */
const ruleWords =
  /rate|resolution|size|frame|codec|video|audio|sound|server|url|address|ingest|key|profile|level|gop|channel|protocol|limit|max|min|setting|resolu|fps|sampl/i

/** "Bitrate" on a line of its own is the heading of the line below. */
const endsAsHeading = (line: string): boolean =>
  line.length <= 60 && !/\d/.test(line) && !/[.;]$/.test(line) && line.split(/\s+/).length <= 6

/**
 * Takes a text apart into what it states, line by line; of a table each cell is a statement under its
 * column's heading and its row's.
 */
export function statementsOf(text: string): Statement[] {
  const lines = unwrapped(
    text
      .slice(0, longestHelpText)
      .replaceAll(/\r\n?/g, '\n')
      .replaceAll(/[\u00A0\u2007\u202F]/g, ' ')
      .replaceAll(/<br\s*\/?>/gi, '\n')
      .replaceAll(/<\/?[a-z][^>\n]{0,200}>/gi, '\t')
      .split('\n'),
  )
  const statements: Statement[] = []
  let columns: string[] | null = null
  let heading = ''
  for (const line of lines) {
    if (statements.length >= mostStatements) break
    const trimmed = line.replace(/^[\s•·*–—#>✓✔-]+/u, '').trim()
    if (trimmed === '' || isRule(line)) {
      if (trimmed === '' && !isRule(line)) columns = null
      continue
    }
    const cells = cellsOf(line)
    if (cells.filter(Boolean).length >= 2) {
      if (cells.filter(Boolean).every(isHeadingLike) && columns === null) {
        columns = cells
        continue
      }
      const [row = ''] = cells
      const isNamed = isHeadingLike(row)
      cells.forEach((words, index) => {
        if (words === '' || (isNamed && index === 0)) return
        const column = columns?.[index] ?? ''
        const about = isNamed ? `${row} ${column}` : column
        statements.push({ words, heading: about.trim() || heading })
      })
      continue
    }
    if (endsAsHeading(trimmed)) {
      // A line of words only may say something itself: "Stereo".
      statements.push({ words: trimmed, heading: '' })
      heading = ruleWords.test(trimmed) ? trimmed : ''
      continue
    }
    for (const sentence of trimmed.slice(0, 4000).split(/(?<=[.!?])\s+(?=\p{Lu})|;\s+/u))
      if (sentence.trim() !== '')
        statements.push({ words: sentence.trim().slice(0, longestStatement), heading })
    if (!/:$/.test(trimmed)) heading = ''
  }
  return statements
}
