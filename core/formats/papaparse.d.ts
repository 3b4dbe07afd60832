/** The part of papaparse that the core uses; its published types lean on Node and the DOM, which the core must not see. */
declare module 'papaparse' {
  const papaparse: {
    unparse(
      rows: readonly (readonly (string | number)[])[],
      options: { newline: string; escapeFormulae: boolean | RegExp },
    ): string
    parse(text: string): {
      data: string[][]
      errors: { row?: number; message: string }[]
    }
  }
  export default papaparse
}
