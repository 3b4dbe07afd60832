import type { Part } from './parts'

/** Version 8 knew the kinds of picture alone, and none that was measured. */
export function fromVersion8(show: Part): Part {
  return { ownPicture: null, ...show }
}
