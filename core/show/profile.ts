import { z } from 'zod'
import { type CanvasName, canvasNames } from './canvasPair'
import { newConnectionDetails, newPlanDetails } from './defaults'
import { type Destination, destinationSchema } from './destination'
import { identifierSchema, type MakeIdentifier, shortTextSchema } from './identifier'
import { defaultPlanChoices } from './plan'
import { renditionSchema } from './rendition'

/** What a platform is like on one canvas. */
export const profileSideSchema = destinationSchema
  .pick({
    connection: true,
    protocol: true,
    serverAddress: true,
    viewers: true,
    coverZones: true,
    rules: true,
  })
  .extend({
    /** What a destination made from it is called. */
    name: shortTextSchema.min(1),
    /** What it is sent to begin with. */
    renditions: z
      .array(renditionSchema.omit({ id: true, encoder: true, pins: true }))
      .min(1)
      .max(3),
  })
export type ProfileSide = z.infer<typeof profileSideSchema>

export const profileSchema = z
  .strictObject({
    id: identifierSchema,
    name: shortTextSchema.min(1),
    note: z.string().max(2000),
    revision: z.int().min(1).max(1_000_000),
    /** The day this revision is of. */
    dated: z.iso.date(),
    landscape: profileSideSchema.nullable(),
    vertical: profileSideSchema.nullable(),
  })
  .refine(({ landscape, vertical }) => landscape ?? vertical, 'a profile has at least one canvas')
/** What a platform accepts and demands, to be used in several shows and traded: without keys. */
export type Profile = z.infer<typeof profileSchema>

/** The canvases that a profile has a side for. */
export const canvasesOf = (profile: Profile): CanvasName[] =>
  canvasNames.filter((canvas) => profile[canvas] !== null)

export const referenceTo = ({ id, name, revision, dated }: Profile): Destination['profile'] => ({
  id,
  name,
  revision,
  dated,
})

/** A destination as a profile describes it on one canvas. Throws a RangeError where it has no such side. */
export function destinationFromProfile(
  profile: Profile,
  canvas: CanvasName,
  makeIdentifier: MakeIdentifier,
): Destination {
  const side = profile[canvas]
  if (!side) throw new RangeError(`${profile.name} has no ${canvas} canvas`)
  const { renditions, ...settings } = structuredCopy(side)
  return {
    ...newConnectionDetails(),
    ...settings,
    id: makeIdentifier(),
    note: '',
    canvas,
    on: true,
    plan: defaultPlanChoices,
    profile: referenceTo(profile),
    renditions: renditions.map((rendition) => ({
      ...rendition,
      ...newPlanDetails(),
      id: makeIdentifier(),
    })),
  }
}

const structuredCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** One side of a profile, taken from a destination. */
export function sideOf(destination: Destination): ProfileSide {
  const { name, connection, protocol, serverAddress, viewers, coverZones, rules, renditions } =
    destination
  return {
    name,
    connection,
    protocol,
    serverAddress,
    viewers,
    coverZones,
    rules,
    renditions: renditions.map(
      ({ id: _id, encoder: _encoder, pins: _pins, ...settings }) => settings,
    ),
  }
}

/** Takes the rules and the rest of a newer revision over; what is the show's own stays. */
export function withProfile(destination: Destination, profile: Profile): Destination {
  const side = profile[destination.canvas]
  if (!side) return destination
  const { name: _name, renditions: _renditions, serverAddress, ...settings } = structuredCopy(side)
  return {
    ...destination,
    ...settings,
    serverAddress: serverAddress === '' ? destination.serverAddress : serverAddress,
    profile: referenceTo(profile),
  }
}

/** How the profile a destination was made from stands to the one that is there now. */
export type ProfileState = 'none' | 'current' | 'older' | 'newer' | 'not here'

export function profileState(
  { profile }: Pick<Destination, 'profile'>,
  profiles: readonly Pick<Profile, 'id' | 'revision'>[],
): ProfileState {
  if (!profile) return 'none'
  const present = profiles.find(({ id }) => id === profile.id)
  if (!present) return 'not here'
  if (present.revision === profile.revision) return 'current'
  return profile.revision < present.revision ? 'older' : 'newer'
}

/**
 * A profile with one side taken from a destination: a further revision of the one it was made from,
 * or a first one where there is none.
 */
export function profileWithSide(
  present: Profile | undefined,
  destination: Destination,
  made: { id: string; dated: string },
): Profile {
  const sides = present ?? { landscape: null, vertical: null }
  return {
    id: present?.id ?? made.id,
    name: present?.name ?? destination.name,
    note: present?.note ?? '',
    revision: (present?.revision ?? 0) + 1,
    dated: made.dated,
    landscape: sides.landscape,
    vertical: sides.vertical,
    [destination.canvas]: sideOf(destination),
  }
}
