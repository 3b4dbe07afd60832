import { serverAddressParts } from '../show'

/** Which of an SRT address's options FFmpeg counts in microseconds; an address has milliseconds. */
const inMicroseconds: ReadonlySet<string> = new Set(['latency', 'rcvlatency', 'peerlatency'])

/**
 * The address of an SRT ingest as FFmpeg takes it (its protocol documentation: latencies in
 * microseconds). Throws, in words, where it is no such address.
 */
export function srtAddressForProgram(address: string): string {
  const parts = serverAddressParts(address, 'srt')
  // Their values are numbers and plain words: an address with others is refused.
  const query = parts.query
    .map(([name, value]) => `${name}=${inMicroseconds.has(name) ? Number(value) * 1000 : value}`)
    .join('&')
  return `srt://${parts.host}:${parts.port}${query ? `?${query}` : ''}`
}

const maxStreamIdLength = 512
const passphraseLength = { min: 10, max: 79 } as const

/**
 * The options that hold what is secret of a send over SRT, a line each, as FFmpeg reads them from a
 * file of options. A key that is written as `streamid=…&passphrase=…` is taken apart; any other is the
 * stream ID. Limits from the SRT Internet-Draft and its library (from memory). Throws, in words
 * without the key.
 */
export function srtSecretOptions(key: string): string {
  if (/[\r\n\0]/.test(key)) throw new Error('its key has more than one line')
  const { streamId, passphrase } = srtSecretsOf(key)
  if (streamId.length > maxStreamIdLength)
    throw new Error(`its stream ID has over ${maxStreamIdLength} characters`)
  const { min, max } = passphraseLength
  if (passphrase !== '' && (passphrase.length < min || passphrase.length > max))
    throw new Error(`its passphrase has to have ${min} to ${max} characters`)
  return [
    ...(streamId === '' ? [] : [`srt_streamid=${streamId}\n`]),
    ...(passphrase === '' ? [] : [`passphrase=${passphrase}\n`]),
  ].join('')
}

/** Stream ID and passphrase that a key holds; empty where it has none. */
export function srtSecretsOf(key: string): { streamId: string; passphrase: string } {
  const named = key.split('&').map((part) => /^(streamid|passphrase)=(.*)$/i.exec(part))
  if (named.some((part) => part === null)) return { streamId: key, passphrase: '' }
  const valueOf = (name: string): string =>
    named.find((part) => part?.[1]?.toLowerCase() === name)?.[2] ?? ''
  return { streamId: valueOf('streamid'), passphrase: valueOf('passphrase') }
}
