import { describe, expect, it } from 'vitest'
import { ownAddress } from './ingests'

const at = (
  protocol: 'rtmp' | 'rtmps' | 'srt' | 'whip',
  serverAddress: string,
  backupAddress = serverAddress,
) => ({ protocol, serverAddress, backupAddress })

describe('where a send goes', () => {
  it.each([
    at('rtmp', 'rtmp://ingest.example/live'),
    at('rtmps', 'rtmps://ingest.example/live'),
    at('srt', 'srt://ingest.example:9000?latency=200'),
    at('whip', ' https://ingest.example/whip '),
  ])('is the address of its protocol: $serverAddress', (destination) => {
    for (const isBackup of [false, true])
      expect(ownAddress(destination, isBackup)).toBe(destination.serverAddress.trim())
  })

  it.each([
    [at('whip', 'http://ingest.example/whip'), /wants https:/],
    [at('rtmps', 'rtmp://ingest.example/live'), /wants rtmps:/],
    [at('rtmp', 'srt://ingest.example:9000'), /wants rtmp:/],
    [at('srt', 'srt://ingest.example:9000?passphrase=moss'), /pass/],
    [at('whip', 'file:///etc/passwd'), /no address/],
    [at('rtmp', '  '), /no server address/],
  ])('is never one that would show the key or is of another protocol: %j', (destination, words) => {
    for (const isBackup of [false, true])
      expect(() => ownAddress(destination, isBackup)).toThrow(words)
  })
})
