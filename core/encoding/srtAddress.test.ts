import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { srtAddressForProgram, srtSecretOptions, srtSecretsOf } from './srtAddress'

describe('the address of an SRT ingest', () => {
  it.each([
    ['srt://in.example:9000', 'srt://in.example:9000'],
    // FFmpeg's protocol documentation: latencies are microseconds, the time to connect milliseconds.
    [
      'srt://in.example:9000?mode=caller&latency=400&connect_timeout=5000',
      'srt://in.example:9000?mode=caller&latency=400000&connect_timeout=5000',
    ],
    ['srt://[2001:db8::1]:9000?rcvlatency=80', 'srt://[2001:db8::1]:9000?rcvlatency=80000'],
  ])('%s is %s to the program', (address, forProgram) => {
    expect(srtAddressForProgram(address)).toBe(forProgram)
  })

  it('is refused in words where it is none', () => {
    expect(() => srtAddressForProgram('')).toThrow('it has no server address')
    expect(() => srtAddressForProgram('rtmp://in.example/live')).toThrow(/begins with rtmp/)
    expect(() => srtAddressForProgram('srt://in.example:9000?streamid=x')).toThrow(/holds a key/)
  })
})

describe('the key of a send over SRT', () => {
  it('is the stream ID, or what it names', () => {
    expect(srtSecretsOf('abc-123')).toEqual({ streamId: 'abc-123', passphrase: '' })
    expect(srtSecretsOf('#!::r=live/one,m=publish')).toEqual({
      streamId: '#!::r=live/one,m=publish',
      passphrase: '',
    })
    expect(srtSecretsOf('streamid=a=b&passphrase=long enough')).toEqual({
      streamId: 'a=b',
      passphrase: 'long enough',
    })
    expect(srtSecretsOf('passphrase=long enough')).toEqual({
      streamId: '',
      passphrase: 'long enough',
    })
  })

  it('becomes a line an option', () => {
    expect(srtSecretOptions('streamid=one&passphrase=0123456789')).toBe(
      'srt_streamid=one\npassphrase=0123456789\n',
    )
    expect(srtSecretOptions('')).toBe('')
  })

  it.each([
    ['two\nlines=1', /more than one line/],
    ['x'.repeat(513), /512 characters/],
    ['passphrase=short', /10 to 79/],
    [`passphrase=${'x'.repeat(80)}`, /10 to 79/],
  ])('is refused without being repeated', (key, words) => {
    expect(() => srtSecretOptions(key)).toThrow(words)
    expect(() => srtSecretOptions(key)).not.toThrow(key)
  })

  it('never sets an option that is not its own', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (key) => {
        try {
          for (const line of srtSecretOptions(key).split('\n').slice(0, -1))
            expect(line).toMatch(/^(srt_streamid|passphrase)=/)
        } catch (error) {
          expect((error as Error).message).toMatch(/^its /)
        }
      }),
    )
  })
})
