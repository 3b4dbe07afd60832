import { fileURLToPath } from 'node:url'

/** The project's folder, without a slash at its end. */
export const root = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '')
export const dataDirectory = `${root}/.data`
export const serverEntry = `${root}/.output/server/index.mjs`
export const binary = (name: string): string => `${root}/node_modules/.bin/${name}`
/** Checks types in a tenth of the time; the checker of components still needs the other one. */
export const nativeCompiler = `${root}/node_modules/typescript-native/bin/tsc`
