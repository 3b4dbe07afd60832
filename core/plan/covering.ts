import { encodingEfficiency } from '../media'
import type { Group } from './groups'
import type { Problem, Shape } from './problem'

/** For a group: whether a shape on one of its places is never better than another shape there. */
export type Covering = (group: Group) => (shape: number, place: number) => boolean

const pictureKey = ({ canvas, width, height, framesPerSecond }: Shape): string =>
  `${canvas} ${width} ${height} ${framesPerSecond}`

/**
 * On one device a codec and effort are covered by others that make more of the bits and take no more
 * of the device: whatever plan has the former can have the latter instead, provided that everybody
 * accepts it at as many bitrates.
 */
export function coveringIn({ shapes, places, relays }: Problem): Covering {
  const alike = new Map<string, number[]>()
  shapes.forEach((shape, index) => {
    const key = pictureKey(shape)
    alike.set(key, [...(alike.get(key) ?? []), index])
  })
  const efficiencies = shapes.map(encodingEfficiency)
  // For every place of every shape the shapes that could cover it.
  const coverers = shapes.map((shape, own) =>
    places[own]!.map(({ device, load }) =>
      alike.get(pictureKey(shape))!.filter((other) => {
        const there = places[other]!.find((place) => place.device === device)
        if (other === own || !there) return false
        const isNoWorse = there.load <= load && efficiencies[other]! >= efficiencies[own]!
        const isSame = there.load === load && efficiencies[other] === efficiencies[own]
        return isNoWorse && (!isSame || other < own)
      }),
    ),
  )
  const acceptAsMuch = ({ members, routes }: Group, own: number, other: number): boolean =>
    members.every(({ choices }, member) => {
      const [mine, theirs] = [choices[own]!, choices[other]]
      if (!theirs || theirs.first > mine.first || theirs.carriedTo < mine.carriedTo) return false
      const relay = relays[routes[member]!]
      if (!relay) return true
      const [sent, instead] = [relay.wires.get(own)!, relay.wires.get(other)]
      if (!instead || instead.first > sent.first) return false
      return instead.first + instead.wireKbps.length >= sent.first + sent.wireKbps.length
    })
  return (group) => (shape, place) =>
    coverers[shape]![place]!.some((other) => acceptAsMuch(group, shape, other))
}
