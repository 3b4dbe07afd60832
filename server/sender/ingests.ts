import type { EncodedOutput } from '@green-mantle/core/encoding'
import type { SendTarget } from '@green-mantle/core/night'
import { addressProblem, type Destination } from '@green-mantle/core/show'
import { useDatabase } from '../database/connection'
import { openKey } from '../database/keys/keyStore'
import { useInstallationKey } from '../secrets/installationKey'
import { standInAddress } from '../standIns/platforms'
import type { Ingest } from './publisher'

/** The stored key of a destination, opened for this one connection; empty where there is none. */
async function openedKey(showId: string, destinationId: string): Promise<string> {
  const opened = await openKey(
    await useDatabase(),
    await useInstallationKey(),
    showId,
    destinationId,
  )
  if (!opened) return ''
  if (opened.outcome !== 'opened') throw new Error('its key cannot be opened here: paste it again')
  return opened.text
}

/**
 * A destination's own address for a feed. Throws, in words, where it has none or one that is not right for
 * its protocol: what a person chose to be encrypted never goes out in the clear.
 */
export function ownAddress(
  destination: Pick<Destination, 'protocol' | 'serverAddress' | 'backupAddress'>,
  isBackup: boolean,
): string {
  const address = ((isBackup ? destination.backupAddress : destination.serverAddress) ?? '').trim()
  if (address === '') throw new Error('it has no server address')
  const problem = addressProblem(address, destination.protocol)
  if (problem !== null) throw new Error(`its server address is not right: ${problem}`)
  return address
}

/** Where an output goes, and under which key. Throws, in words, where that is not known. */
export async function ingestFor(
  showId: string,
  target: SendTarget,
  { feed, step, streamName }: EncodedOutput,
  destination: Destination,
): Promise<Ingest> {
  const key = await openedKey(showId, destination.id)
  // A ladder appends 2 and 3 to the name; where only a key is known, to the key.
  const name = key === '' ? streamName : step === 0 ? key : `${key}${step + 1}`
  if (target === 'stand-ins') {
    const isKeyless =
      destination.connection === 'linked account' || destination.rules.key.life === 'no key'
    if (name === '' && !isKeyless) throw new Error('it has no key yet')
    return {
      // Over SRT each send has a port of its own; the first is the one that the stand-in's page shows.
      address: await standInAddress(
        showId,
        destination.id,
        step === 0 && !feed.isBackup ? undefined : `${step} ${feed.isBackup}`,
      ),
      key: name || `account-${destination.id}`,
    }
  }
  if (destination.connection === 'linked account')
    throw new Error('it is reached through its account, which no sender here can do')
  const address = ownAddress(destination, feed.isBackup)
  if (name === '') throw new Error('it has no key yet')
  return { address, key: name }
}
