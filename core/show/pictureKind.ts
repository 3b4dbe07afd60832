/** What the show mostly shows; it sets how many bits a clean picture needs. */
export const pictureKinds = ['talking', 'hands', 'action'] as const
export type PictureKind = (typeof pictureKinds)[number]

/** One of the kinds, or what was measured of a clip of one's own. */
export const pictureChoices = [...pictureKinds, 'own'] as const
export type PictureChoice = (typeof pictureChoices)[number]
