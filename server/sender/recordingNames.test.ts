import { basename } from 'node:path'
import { describe, expect, it } from 'vitest'
import { recordingNames } from './recordingNames'

const begunAt = new Date('2026-12-12T21:00:00.000Z')

describe('the files of recordings', () => {
  it('are named by show, recording and when they were begun', () => {
    const name = recordingNames('/r', 'Night / Bloom', begunAt)
    expect(name({ ownerId: 'a', name: 'Archive: file' }, 0)).toBe(
      '/r/Night Bloom, Archive file, 2026-12-12T21-00-00.mkv',
    )
  })

  it('are two where two recordings are called the same, and others when an encoder begins anew', () => {
    const name = recordingNames('/r', 'Night', begunAt)
    const files = [
      name({ ownerId: 'a', name: 'Archive' }, 0),
      name({ ownerId: 'b', name: 'archive?' }, 0),
      name({ ownerId: 'c', name: 'Archive 2' }, 0),
      name({ ownerId: 'a', name: 'Archive' }, 1),
      name({ ownerId: 'b', name: 'archive?' }, 1),
    ]
    expect(new Set(files.map((file) => file.toLowerCase())).size).toBe(files.length)
    expect(name({ ownerId: 'b', name: 'archive?' }, 0)).toBe(files[1])
  })

  it('fit into what a file system takes, in any script, with room for a cut out of them', () => {
    const name = recordingNames('/r', '花'.repeat(200), begunAt)
    const file = basename(name({ ownerId: 'a', name: '夜'.repeat(200) }, 11))
    expect(Buffer.byteLength(file) + ', 168-00-00 to 168-00-30, '.length + 36).toBeLessThan(255)
  })
})
