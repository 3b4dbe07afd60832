import { createCipheriv, createDecipheriv, createHmac, hkdfSync, randomBytes } from 'node:crypto'
import type { InstallationKey } from './keyFile'

const algorithm = 'aes-256-gcm'
const nonceBytes = 12
const tagBytes = 16

export type OpenResult =
  | { outcome: 'opened'; text: string }
  /** It was sealed under another key file, which is not here. */
  | { outcome: 'other key file' }
  /** It was altered since, or belongs to another place. */
  | { outcome: 'damaged' }

const subkey = (key: InstallationKey, purpose: string): Buffer =>
  Buffer.from(hkdfSync('sha256', key.bytes, '', purpose, 32))

/**
 * Encrypts a text with AES-256-GCM (NIST SP 800-38D) under the installation's key. `place` says
 * where it is kept, so that a sealed text that is moved elsewhere does not open there.
 */
export function seal(key: InstallationKey, text: string, place: string): string {
  const nonce = randomBytes(nonceBytes)
  const cipher = createCipheriv(algorithm, subkey(key, 'sealing'), nonce).setAAD(Buffer.from(place))
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  const body = Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64')
  return `1.${key.id}.${body}`
}

/** Opens what was sealed for the same place; never throws. */
export function unseal(key: InstallationKey, sealed: string, place: string): OpenResult {
  const [version, keyId, body = ''] = sealed.split('.')
  if (version !== '1' || !keyId || !/^[0-9a-f]{12}$/.test(keyId)) return { outcome: 'damaged' }
  if (keyId !== key.id) return { outcome: 'other key file' }
  const bytes = Buffer.from(body, 'base64')
  // Base64 has spellings that decode alike; only the one that was written is as it was.
  if (bytes.toString('base64') !== body) return { outcome: 'damaged' }
  try {
    const decipher = createDecipheriv(
      algorithm,
      subkey(key, 'sealing'),
      bytes.subarray(0, nonceBytes),
      { authTagLength: tagBytes },
    )
      .setAAD(Buffer.from(place))
      .setAuthTag(bytes.subarray(nonceBytes, nonceBytes + tagBytes))
    const text = Buffer.concat([
      decipher.update(bytes.subarray(nonceBytes + tagBytes)),
      decipher.final(),
    ])
    return { outcome: 'opened', text: text.toString('utf8') }
  } catch {
    return { outcome: 'damaged' }
  }
}

/** The same for the same text under the same key file, and of no use without that. */
export function fingerprint(key: InstallationKey, text: string): string {
  return createHmac('sha256', subkey(key, 'fingerprints')).update(text, 'utf8').digest('hex')
}
