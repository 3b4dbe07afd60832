import { readSettings } from '../settings'
import { type InstallationKey, readKeyFile } from './keyFile'

let reading: Promise<InstallationKey> | undefined

/** The key of this installation. A failure is tried again at the next call. */
export function useInstallationKey(): Promise<InstallationKey> {
  reading ??= readKeyFile(readSettings().keyFile).catch((error: unknown) => {
    reading = undefined
    throw error
  })
  return reading
}
