import { expect, test } from '@playwright/test'
import { input } from '../../scripts/campaign/input'
import { type Finding, type Instance, startInstance } from '../../scripts/campaign/instance'
import { kills } from '../../scripts/campaign/kills'
import { life } from '../../scripts/campaign/life'
import { load } from '../../scripts/campaign/load'
import { web } from '../../scripts/campaign/web'

/** The campaign in short. How fast something is depends on what else runs here, so that it is not held to that. */
const isAboutTime = ({ name }: Finding): boolean => /wait|bare_commit|memory/.test(name)

const parts: Record<string, (instance: Instance) => Promise<Finding[]>> = {
  'kills lose nothing that was acknowledged': (instance) =>
    kills(instance, { count: 3, seconds: 30 }),
  'many editors at once are all served': (instance) => load(instance, { editors: 20 }),
  'bad input is refused and changes nothing': (instance) => input(instance, { count: 300 }),
  'hostile pages get nothing': web,
  'many saves in a row all succeed': (instance) => life(instance, { saves: 200, seconds: 30 }),
}

for (const [name, part] of Object.entries(parts))
  test(name, { tag: '@deep' }, async ({}, { parallelIndex }) => {
    const instance = await startInstance(5000 + 100 * parallelIndex)
    try {
      const findings = await part(instance)
      const missed = findings.filter((each) => !each.isReached && !isAboutTime(each))
      expect(missed).toEqual([])
    } finally {
      await instance.stop()
    }
  })
