/** A worker as one script in a text; see `scripts/bundledWorkers.ts`. */
declare module '*.worker?bundled' {
  const code: string
  export default code
}
