/** `cleanSvgWorker.ts` as one script in a text; see `scripts/bundledWorkers.ts`. */
declare const code: string
export default code
