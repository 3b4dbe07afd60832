import { type Destination, type Profile, sideOf } from '@green-mantle/core/show'
import { demoDestinations } from './destinations'

const notes: Record<string, string> = {
  longmeadow: 'Takes nearly anything, and a second ingest.',
  flickerbrook: 'A feed for phones. Its key is new for every session.',
  commonhall: 'Linked by account; locked to 720p30.',
  tallstory: 'Viewers choose the canvas; they see the vertical one first.',
  relayhouse: 'A relay that feeds up to five others.',
  kilnside: 'Gives out no address: its own program takes the canvas.',
  rookery: 'A ladder under one stream name.',
}

function profileOf(id: string, sides: readonly Destination[]): Profile {
  const on = (canvas: Destination['canvas']) => {
    const destination = sides.find((side) => side.canvas === canvas)
    return destination ? sideOf(destination) : null
  }
  return {
    id,
    name: sides[0]?.profile?.name ?? id,
    note: notes[id] ?? '',
    revision: 1,
    dated: '2026-11-02',
    landscape: on('landscape'),
    vertical: on('vertical'),
  }
}

/** The destination profiles that ship with the demo; every platform is invented. */
export const demoProfiles: Profile[] = Object.keys(notes).map((id) =>
  profileOf(
    id,
    demoDestinations.filter(({ profile }) => profile?.id === id),
  ),
)
