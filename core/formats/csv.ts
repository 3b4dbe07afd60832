import papaparse from 'papaparse'

/** What a spreadsheet takes for the beginning of a formula, also behind spaces and as full-width signs. */
const formulaStart = /^\s*[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/

/** Rows as CSV (RFC 4180); cells of text that a spreadsheet would run as a formula are defused. */
export const writeCsv = (rows: readonly (readonly (string | number)[])[]): string =>
  `${papaparse.unparse(rows, { newline: '\r\n', escapeFormulae: formulaStart })}\r\n`
