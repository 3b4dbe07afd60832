import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { lineOf, type Show, withLine } from '../show'
import { nightOrder } from './nightOrder'
import { type AccountState, preflight, type PreflightFacts } from './preflight'

const facts: PreflightFacts = {
  now: new Date('2026-12-12T20:30:00Z'),
  keys: [],
  accounts: null,
  missingFiles: null,
  heardAt: {},
  installation: null,
  freeDiskGigabytes: null,
  browserMachine: null,
}
const checked = (show: Show, changes: Partial<PreflightFacts> = {}) =>
  preflight(show, nightOrder(show), { ...facts, ...changes })
const wordsOf = (show: Show, page: string, changes: Partial<PreflightFacts> = {}) =>
  checked(show, changes)
    .filter((each) => each.page === page)
    .map(({ tone, words }) => `${tone}: ${words}`)
    .join('\n')

const linked = {
  accountId: 'a',
  accountName: 'Glasshouse',
  pageId: '',
  pageName: '',
  eventId: null,
}
const withAccount: Show = {
  ...demoShow,
  destinations: demoShow.destinations.map((each) =>
    each.connection === 'linked account'
      ? { ...each, account: { ...each.account, ...linked, eventTitle: '' } }
      : each,
  ),
}
const well: AccountState = { isLinked: true, mayGoLive: true, alsoOn: [] }
const account = (state: Partial<AccountState>) =>
  wordsOf(withAccount, 'destinations', { accounts: { a: { ...well, ...state } } })

describe('linked accounts before the night', () => {
  it('that are well are not spoken of', () => {
    expect(account({})).not.toContain('Glasshouse')
    expect(account({ mayGoLive: null })).not.toContain('Glasshouse')
  })

  it('that have run out, may not go live, or are used elsewhere are said, with what to do', () => {
    expect(account({ isLinked: false })).toMatch(/fails: Commonhall is linked to Glasshouse, which/)
    expect(account({ mayGoLive: false })).toMatch(
      /fails: Glasshouse may not go live.*ask for access/,
    )
    expect(account({ alsoOn: ['a phone'] })).toMatch(
      /attention: Glasshouse is logged in on a phone too, which may end the send to Commonhall/,
    )
  })

  it('whose service did not answer are not taken to be well', () => {
    expect(wordsOf(withAccount, 'destinations', { accounts: {} })).toMatch(
      /attention: Glasshouse, for Commonhall: its service could not be asked/,
    )
    // Before anything was asked nothing is said.
    expect(wordsOf(withAccount, 'destinations')).not.toContain('Glasshouse')
  })
})

describe('sources before the night', () => {
  const fileId = 'a'.repeat(64)
  const [first, ...others] = demoShow.sources
  const withFile: Show = {
    ...demoShow,
    sources: [
      { ...first!, appearance: { type: 'picture file', fileId, fileName: 'wall.png' } },
      ...others,
    ],
  }

  it('whose file is not kept here are said where they are on a scene', () => {
    const missingFiles = new Set([fileId])
    const words = `fails: The file of ${first!.name} is not kept here: choose it again.`
    expect(wordsOf(withFile, 'canvases', { missingFiles })).toContain(words)
    expect(wordsOf(withFile, 'canvases', { missingFiles: new Set() })).not.toContain('not kept')
    const taken: Show = {
      ...withFile,
      scenes: withFile.scenes.map((scene) => ({
        ...scene,
        layers: scene.layers.filter(({ sourceId }) => sourceId !== first!.id),
      })),
    }
    expect(wordsOf(taken, 'canvases', { missingFiles })).not.toContain('not kept')
  })
})

describe('the line before the night', () => {
  const sample = (uploadKbps: number) => ({
    ...lineOf(demoShow).samples[0]!,
    ...{ id: 'now', measuredAt: '2026-12-12T20:20:00Z', uploadKbps },
  })
  const measured = (uploadKbps: number) =>
    wordsOf(
      withLine(demoShow, (line) => ({ ...line, samples: [...line.samples, sample(uploadKbps)] })),
      'line',
    )

  it('is right where it was measured within the hour and carries the plan, and said where not', () => {
    expect(measured(40_000)).toMatch(/^right: The line is measured/)
    expect(measured(1000)).toMatch(/^fails: The line carried 1\.0 Mb\/s now; the plan sends/)
    expect(wordsOf(demoShow, 'line')).toMatch(
      /attention: The line was not measured within the hour/,
    )
    expect(
      wordsOf(
        withLine(demoShow, (line) => ({ ...line, samples: [] })),
        'line',
      ),
    ).toMatch(/^fails: The line was never measured/)
  })
})

describe('sounds before the night', () => {
  const live = demoShow.sounds.filter(({ mixes, muted }) => mixes.live && !muted)
  const heard = (at: string) => Object.fromEntries(live.map(({ id }) => [id, at]))
  it('are right where each moved its level within the hour, and named where one did not', () => {
    const now = heard('2026-12-12T20:00:00Z')
    expect(wordsOf(demoShow, 'sound', { heardAt: now })).not.toContain('Not heard')
    const early = { ...now, [live[0]!.id]: '2026-12-12T19:00:00Z' }
    expect(wordsOf(demoShow, 'sound', { heardAt: early })).toContain(
      `attention: Not heard here within the hour: ${live[0]!.name}.`,
    )
    expect(wordsOf(demoShow, 'sound')).toContain(live.map(({ name }) => name).at(-1))
  })
})

it('the worst is said first, and every check says where it is put right', () => {
  const checks = checked({ ...demoShow, sounds: [] })
  const gravity = checks.map(({ tone }) => ['fails', 'attention', 'right'].indexOf(tone))
  expect(gravity).toEqual(gravity.toSorted((a, b) => a - b))
  expect(checks[0]).toMatchObject({ tone: 'fails' })
  expect(checks).toContainEqual(
    expect.objectContaining({ page: 'sound', words: 'Nothing is heard in the live mix.' }),
  )
  expect(new Set(checks.map(({ id }) => id)).size).toBe(checks.length)
})

it('goes by what is free now where the show is planned for this computer, else by what the show says', () => {
  const planned = (installation: string | null): Show => ({
    ...demoShow,
    computer: {
      ...demoShow.computer,
      freeDiskGigabytes: 900,
      measured:
        installation === null
          ? null
          : {
              ...{ at: '2026-12-12T20:00:00Z', installation, processor: 'P', program: 'FFmpeg' },
              carries: { rtmp: [], rtmps: [], srt: [], whip: [] },
            },
    },
  })
  const disk = (show: Show, changes: Partial<PreflightFacts>) =>
    wordsOf(show, 'fit', changes)
      .split('\n')
      .find((words) => words.includes('Disk'))
  const here = { installation: 'here', freeDiskGigabytes: 0.5 }
  expect(disk(planned('here'), here)).toMatch(/^attention: Disk: 0.5 GB free now, /)
  expect(disk(planned('here'), { ...here, freeDiskGigabytes: null })).toMatch(
    /^right: Disk: 900.0 GB free, /,
  )
  expect(disk(planned('elsewhere'), here)).toMatch(/^right: Disk: 900.0 GB free, /)
  expect(disk(planned(null), here)).toMatch(/^right: Disk: 900.0 GB free, /)
})
