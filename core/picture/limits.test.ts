import { describe, expect, it } from 'vitest'
import { isMediaType, isPictureType, limitBytes } from './limits'

describe('the limits of own files', () => {
  it('names them by kind, and takes nothing else', () => {
    expect(limitBytes('image/png')).toBe(20_000_000)
    expect(limitBytes('image/svg+xml')).toBe(2_000_000)
    expect(limitBytes('video/mp4')).toBe(200_000_000)
    expect(limitBytes('text/html')).toBeNull()
    expect([isPictureType('image/gif'), isMediaType('video/webm')]).toEqual([false, true])
  })
})
