/** What a person may bring as their own file. */
export const pictureLimits = { bytes: 20_000_000, sidePixels: 8192 } as const
export const svgLimits = { bytes: 2_000_000 } as const
export const mediaLimits = { bytes: 200_000_000 } as const

export const pictureTypes = ['image/png', 'image/jpeg', 'image/webp', 'image/svg+xml'] as const
export const mediaTypes = [
  'video/mp4',
  'video/webm',
  'video/quicktime',
  'video/x-matroska',
] as const
export type PictureType = (typeof pictureTypes)[number]
export type MediaType = (typeof mediaTypes)[number]

export const isPictureType = (type: string): type is PictureType =>
  (pictureTypes as readonly string[]).includes(type)
export const isMediaType = (type: string): type is MediaType =>
  (mediaTypes as readonly string[]).includes(type)

/** The most bytes a file of a type may have; null for a type that is not taken at all. */
export function limitBytes(type: string): number | null {
  if (type === 'image/svg+xml') return svgLimits.bytes
  if (isPictureType(type)) return pictureLimits.bytes
  if (isMediaType(type)) return mediaLimits.bytes
  return null
}
