import { nativeSizeOf, type Size, type Source, type SourceKind } from '../../show'

/** What a source is for in an arrangement, front to back: practice has words before faces before screens. */
export const practiceRoles = [
  'alerts',
  'goal bar',
  'caption',
  'mark',
  'camera',
  'screen',
  'backdrop',
] as const
export type PracticeRole = (typeof practiceRoles)[number]

const roleOfKind = {
  alerts: 'alerts',
  'goal bar': 'goal bar',
  text: 'caption',
  camera: 'camera',
  guest: 'camera',
  screen: 'screen',
  window: 'screen',
  'web page': 'screen',
  'media file': 'screen',
  picture: 'backdrop',
  colour: 'backdrop',
} as const satisfies Record<SourceKind, PracticeRole>

/** A picture with less than this share of a canvas's width and height is a mark, as a logo is. */
const markShare = 0.4

export function practiceRoleOf(source: Source, canvas: Size): PracticeRole {
  const role = roleOfKind[source.kind]
  const { width, height } = nativeSizeOf(source)
  const isSmall = width < markShare * canvas.width && height < markShare * canvas.height
  return source.kind === 'picture' && isSmall ? 'mark' : role
}

/** How far back a source belongs, 0 in front. */
export const depthOf = (source: Source, canvas: Size): number =>
  practiceRoles.indexOf(practiceRoleOf(source, canvas))
