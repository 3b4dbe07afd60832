import { isPart } from './showUpgrades/parts'
import { fromVersion1 } from './showUpgrades/version1'
import { fromVersion2 } from './showUpgrades/version2'
import { fromVersion3 } from './showUpgrades/version3'
import { fromVersion4 } from './showUpgrades/version4'
import { fromVersion5 } from './showUpgrades/version5'
import { fromVersion6 } from './showUpgrades/version6'
import { fromVersion7 } from './showUpgrades/version7'
import { fromVersion8 } from './showUpgrades/version8'
import { fromVersion9 } from './showUpgrades/version9'
import { fromVersion10 } from './showUpgrades/version10'
import { fromVersion11 } from './showUpgrades/version11'

/** What brings a show from each version to the next; the first entry is for version 1. */
const steps = [
  fromVersion1,
  fromVersion2,
  fromVersion3,
  fromVersion4,
  fromVersion5,
  fromVersion6,
  fromVersion7,
  fromVersion8,
  fromVersion9,
  fromVersion10,
  fromVersion11,
] as const

/** A show as a file of an older version holds it, in the shape of the present one; not yet checked. */
export function upgradedShow(show: unknown, version: number): unknown {
  return steps
    .slice(Math.max(0, version - 1))
    .reduce<unknown>((shape, step) => (isPart(shape) ? step(shape) : shape), show)
}
