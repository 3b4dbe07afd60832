/** A fault that `npm test` has to find: what stands in a file, what is put in its place, and who should notice. */
export interface Fault {
  name: string
  file: string
  from: string
  to: string
  /** Files of tests, by parts of their paths. */
  tests: readonly string[]
  project: 'unit' | 'app' | 'database'
}

/** One a room, of the kinds that are made: a sign, a limit, an order, a forgotten case, a check left out. */
export const faults: readonly Fault[] = [
  {
    name: 'other traffic is not taken from what may be spent',
    file: 'core/network/usableUpload.ts',
    from: 'measuredKbps - headroomKbps - otherKbps',
    to: 'measuredKbps - headroomKbps',
    tests: ['core/network'],
    project: 'unit',
  },
  {
    name: 'frames of AAC are longer than they are',
    file: 'core/network/framingTables.ts',
    from: 'aacFrameSamples: 1024',
    to: 'aacFrameSamples: 2048',
    tests: ['core/network/wireRate'],
    project: 'unit',
  },
  {
    name: 'a level admits no bitrate that is just its own',
    file: 'core/media/levels.ts',
    from: 'videoBitrateKbps <= bitrateKbps',
    to: 'videoBitrateKbps < bitrateKbps',
    tests: ['core/media'],
    project: 'unit',
  },
  {
    name: 'what is translucent hides what is behind it',
    file: 'core/canvas/covered.ts',
    from: '!shown || opacityPercent < 100 || !source',
    to: '!shown || !source',
    tests: ['core/canvas'],
    project: 'unit',
  },
  {
    name: 'a crop does not hold the part that has to stay whole',
    file: 'core/matching/crops.ts',
    from: 'Math.min(region.width, Math.max(region.height * aspect, whole.width))',
    to: 'Math.min(region.width, region.height * aspect)',
    tests: ['core/matching', 'core/canvas'],
    project: 'unit',
  },
  {
    name: 'rules do not accept their own highest bitrate',
    file: 'core/plan/problem/choices.ts',
    from: 'Math.floor(maxKbps) + 1',
    to: 'Math.floor(maxKbps)',
    tests: ['core/plan/problem', 'core/plan/tests/edgeCases', 'core/plan/tests/enumeration'],
    project: 'unit',
  },
  {
    name: 'who is left out counts less than who is below the floor',
    file: 'core/plan/problem/problem.ts',
    from: 'b.leftOutWeight - a.leftOutWeight || b.belowFloor - a.belowFloor',
    to: 'b.belowFloor - a.belowFloor || b.leftOutWeight - a.leftOutWeight',
    tests: ['core/plan/tests/enumeration', 'core/plan/tests/exactness', 'core/plan/search'],
    project: 'unit',
  },
  {
    name: 'the first sends take more of a short line than their share',
    file: 'core/simulation/sharing.ts',
    from: 'left / (count - place)',
    to: 'left',
    tests: ['core/simulation'],
    project: 'unit',
  },
  {
    name: 'a share of nights is surer than it is',
    file: 'core/simulation/wilson.ts',
    from: 'z = 1.959964',
    to: 'z = 1.64',
    tests: ['core/simulation', 'core/rehearsal'],
    project: 'unit',
  },
  {
    name: 'an hour that the clocks show twice is not said',
    file: 'core/destinations/clockChanges.ts',
    from: 'if (later !== instant && shownAt(later) === asUtc)',
    to: 'if (later === instant && shownAt(later) === asUtc)',
    tests: ['core/destinations/clockChanges'],
    project: 'unit',
  },
  {
    name: 'what is known to be done is asked for all the same',
    file: 'core/night/stages.ts',
    from: 'state.ticks.has(id) || known.has(id)',
    to: 'state.ticks.has(id)',
    tests: ['core/night'],
    project: 'unit',
  },
  {
    name: 'a title can end the line of a chapter',
    file: 'core/formats/markFiles.ts',
    from: String.raw`replaceAll(/[=;#\\]/g, String.raw`,
    to: String.raw`replaceAll(/[=;#]/g, String.raw`,
    tests: ['core/formats/markFiles'],
    project: 'unit',
  },
  {
    name: 'a passphrase that SRT does not take is taken',
    file: 'core/encoding/srtAddress.ts',
    from: 'passphrase.length < min',
    to: 'passphrase.length < 1',
    tests: ['core/encoding'],
    project: 'unit',
  },
  {
    name: 'a secret opens at another place than its own',
    file: 'server/secrets/sealing.ts',
    from: '.setAAD(Buffer.from(place))\n',
    to: '\n',
    tests: ['server/secrets'],
    project: 'unit',
  },
  {
    name: 'an ingest says where else its session is ended',
    file: 'server/sender/whipPublisher.ts',
    from: 'named.origin === ingest.origin ? named.href : null',
    to: 'named.href',
    tests: ['server/sender/whipPublisher'],
    project: 'unit',
  },
  {
    name: 'turns do not come back with time',
    file: 'server/http/pace.ts',
    from: '+ (at - before.at) * aSecond',
    to: '+ (before.at - before.at) * aSecond',
    tests: ['server/http/pace'],
    project: 'unit',
  },
  {
    name: 'what a person may be led back to is any page',
    file: 'server/http/access.ts',
    from: String.raw`/^\/(?![/\\])/.test(path)`,
    to: String.raw`/^\//.test(path)`,
    tests: ['server/http/access'],
    project: 'unit',
  },
  {
    name: 'a save overwrites what was saved since',
    file: 'server/database/shows/showStore.ts',
    from: 'const known = lastRows(database, id, revision)\n    if (known && (await update({ id, revision })) === 1) {',
    to: 'const known = lastRows(database, id, revision)\n    if (known && (await update({ id })) === 1) {',
    tests: ['tests/database/showStore', 'tests/database/atOnce'],
    project: 'database',
  },
  {
    name: 'an edit is not kept while it is not saved',
    file: 'app/stores/showSaving.ts',
    from: '  function notSaved(error: unknown, sent: Show): void {\n    keep()',
    to: '  function notSaved(error: unknown, sent: Show): void {\n    forgetEdit(id.value)',
    tests: ['tests/app/showStore'],
    project: 'app',
  },
  {
    name: 'steps of one drag are undone one by one',
    file: 'app/stores/showHistory.ts',
    from: 'if (openMergeKey.value !== mergeKey) endMerge()',
    to: 'endMerge()',
    tests: ['tests/app/showHistory', 'tests/app/showStore'],
    project: 'app',
  },
]
