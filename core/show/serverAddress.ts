import type { Protocol } from './protocol'

/** An address taken apart; the query's names and values as they stand. */
interface Parts {
  scheme: string
  userInfo: string
  host: string
  port: number | null
  path: string
  query: readonly (readonly [name: string, value: string])[]
}

const shape =
  /^([a-z][a-z0-9+.-]*):\/\/(?:([^/?#@]*)@)?(\[[0-9a-f:.]+\]|[^/?#:@[\]\s]+)(?::(\d{1,5}))?(\/[^?#\s]*)?(?:\?([^#\s]*))?$/i

function partsOf(address: string): Parts | null {
  const match = shape.exec(address.trim())
  if (!match) return null
  const [, scheme = '', userInfo = '', host = '', port, path = '', query = ''] = match
  return {
    scheme: scheme.toLowerCase(),
    userInfo,
    host,
    port: port === undefined ? null : Number(port),
    path,
    query: query
      .split('&')
      .filter(Boolean)
      .map((pair) => {
        const [name = '', ...value] = pair.split('=')
        return [name.toLowerCase(), value.join('=')] as const
      }),
  }
}

const secretNames = new Set(['passphrase', 'streamid', 'key', 'token', 'password'])

/** Whether an address carries what belongs in the key: it is stored and shown in the clear, a key never is. */
export function holdsASecret(address: string): boolean {
  const parts = partsOf(address)
  if (!parts) return false
  return parts.userInfo !== '' || parts.query.some(([name]) => secretNames.has(name))
}

const schemes: Record<Protocol, string> = {
  rtmp: 'rtmp',
  rtmps: 'rtmps',
  srt: 'srt',
  whip: 'https',
}

const wholeNumberUpTo =
  (most: number, least = 0) =>
  (value: string): string | null =>
    /^\d+$/.test(value) && Number(value) >= least && Number(value) <= most
      ? null
      : `a whole number from ${least} to ${most}`
const oneOf =
  (...choices: string[]) =>
  (value: string): string | null =>
    choices.includes(value) ? null : choices.join(' or ')

/** The options of an SRT address that a sender sets (SRT Internet-Draft and its library's socket options; from memory). */
const srtOptions: Record<string, (value: string) => string | null> = {
  mode: oneOf('caller', 'listener', 'rendezvous'),
  transtype: oneOf('live'),
  latency: wholeNumberUpTo(60_000),
  rcvlatency: wholeNumberUpTo(60_000),
  peerlatency: wholeNumberUpTo(60_000),
  pbkeylen: oneOf('0', '16', '24', '32'),
  connect_timeout: wholeNumberUpTo(60_000),
  payload_size: wholeNumberUpTo(1456, 188),
  oheadbw: wholeNumberUpTo(100, 5),
  maxbw: wholeNumberUpTo(10_000_000_000),
}

function srtProblem({ port, query }: Parts): string | null {
  if (port === null) return 'an SRT address names its port, as in srt://ingest.example:9000'
  for (const [name, value] of query) {
    const check = srtOptions[name]
    if (!check) return `"${name}" is no option of SRT that a sender sets`
    const wanted = check(value)
    if (wanted) return `${name} has to be ${wanted}, not "${value}"`
  }
  return null
}

/**
 * What is wrong with a server address for a protocol, in words; null where nothing is. An empty
 * address is not wrong, only missing.
 */
export function addressProblem(address: string, protocol: Protocol): string | null {
  if (address.trim() === '') return null
  const scheme = schemes[protocol]
  const parts = partsOf(address)
  if (!parts) return `this is no address; one begins with ${scheme}:// and a host name`
  if (parts.scheme !== scheme)
    return `it begins with ${parts.scheme}://, and this protocol wants ${scheme}://`
  if (holdsASecret(address))
    return 'it holds a key, user name or passphrase; paste that as the key, where it is kept safe'
  if (parts.port !== null && (parts.port < 1 || parts.port > 65_535))
    return `there is no port ${parts.port}`
  if (protocol === 'srt') return srtProblem(parts)
  if ((protocol === 'rtmp' || protocol === 'rtmps') && parts.path.replaceAll('/', '') === '')
    return 'an RTMP address names its application after the host, as in /live'
  return null
}

/**
 * Host, port and options of a server address that is right for its protocol. Throws, in words, where it
 * is not.
 */
export function serverAddressParts(
  address: string,
  protocol: Protocol,
): Pick<Parts, 'host' | 'port' | 'query'> {
  const problem =
    address.trim() === '' ? 'it has no server address' : addressProblem(address, protocol)
  const parts = partsOf(address)
  if (problem !== null || !parts) throw new Error(problem ?? 'this is no address')
  return parts
}
