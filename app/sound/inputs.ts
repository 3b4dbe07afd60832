import { standInInputs } from '@green-mantle/core/sound'

export interface SoundInput {
  name: string
  /** null for a stand-in, where the browser shows no real one. */
  deviceId: string | null
}

const standIns: SoundInput[] = standInInputs.map(({ name }) => ({ name, deviceId: null }))

/** The inputs whose names the browser tells, which it does once it was allowed to hear one; else the stand-ins. */
export async function listInputs(): Promise<SoundInput[]> {
  try {
    const devices = await navigator.mediaDevices.enumerateDevices()
    const named = devices.filter(({ kind, label }) => kind === 'audioinput' && label !== '')
    return named.length > 0
      ? named.map(({ label, deviceId }) => ({ name: label.slice(0, 200), deviceId }))
      : standIns
  } catch {
    return standIns
  }
}

/** Asks once to hear an input, so that their names are told; false where that is refused or there is none. */
export async function askToHear(): Promise<boolean> {
  try {
    const stream = await navigator.mediaDevices.getUserMedia({ audio: true })
    for (const track of stream.getTracks()) track.stop()
    return true
  } catch {
    return false
  }
}
