import { describe, expect, it } from 'vitest'
import { accessTokenFrom } from '../settings'
import { accessPage, isSameSecret, passFor, safeReturn } from './access'

describe('the access token', () => {
  it('is not wanted on loopback, unless it is set', () => {
    expect(accessTokenFrom({ NITRO_HOST: '127.0.0.1' })).toBeNull()
    expect(accessTokenFrom({ NITRO_HOST: '::1', GREEN_MANTLE_ACCESS_TOKEN: 'any' })).toBe('any')
  })

  it.each([
    [{ NITRO_HOST: '0.0.0.0' }],
    [{ NITRO_HOST: '192.168.1.5', GREEN_MANTLE_ACCESS_TOKEN: 'short' }],
    // Without a host, Node binds to all addresses.
    [{}],
  ])('is wanted beyond it: %j', (environment) => {
    expect(() => accessTokenFrom(environment)).toThrow(/GREEN_MANTLE_ACCESS_TOKEN to 16 characters/)
  })

  it('is compared whole, and its pass gives nothing of it away', () => {
    const token = 'moss-and-river-stones'
    expect(isSameSecret(token, token)).toBe(true)
    for (const wrong of ['', token.slice(1), `${token} `, token.toUpperCase()])
      expect(isSameSecret(wrong, token)).toBe(false)
    const [key, otherKey] = [Buffer.alloc(32, 1), Buffer.alloc(32, 2)]
    expect(passFor(key, token)).not.toContain('moss')
    expect(passFor(key, token)).not.toBe(passFor(key, `${token}x`))
    // Whoever guesses tokens cannot make a pass of one and have that compared instead.
    expect(passFor(key, token)).not.toBe(passFor(otherKey, token))
  })

  it('leads back to a page of our own only', () => {
    expect(safeReturn('/shows/7/fit?x=1')).toBe('/shows/7/fit?x=1')
    for (const path of [
      '//elsewhere.example',
      '/\\elsewhere.example',
      'https://elsewhere.example',
      '',
    ])
      expect(safeReturn(path)).toBe('/')
    expect(accessPage('/"><script>', 'asked')).not.toContain('<script>')
  })
})
