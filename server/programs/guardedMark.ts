/**
 * In the environment of all that ends with a start of the application: what ends them finds by it also
 * what nobody told it of.
 */
export const guardedMarkName = 'GREEN_MANTLE_GUARDED'

/** The mark that this process was started with, for those that it starts. */
export const inheritedMark = (): NodeJS.ProcessEnv => {
  const mark = process.env[guardedMarkName]
  return mark === undefined ? {} : { [guardedMarkName]: mark }
}
