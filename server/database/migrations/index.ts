import type { Knex } from 'knex'
import * as firstTables from './001-first-tables'
import * as canvasPair from './002-canvas-pair-and-files'
import * as lineSoundDestinations from './003-line-sound-destinations'
import * as fit from './004-fit'
import * as planSettings from './005-plan-settings'
import * as showSummaries from './006-show-summaries'
import * as rehearsal from './007-rehearsal'
import * as measuredComputer from './008-measured-computer'
import * as night from './009-night'
import * as ownPicture from './010-own-picture'
import * as nightShows from './011-night-shows'
import * as nightUnderWay from './012-night-under-way'
import * as scenesOnAir from './013-scenes-on-air'

export const migrations = [
  { name: '001-first-tables', ...firstTables },
  { name: '002-canvas-pair-and-files', ...canvasPair },
  { name: '003-line-sound-destinations', ...lineSoundDestinations },
  { name: '004-fit', ...fit },
  { name: '005-plan-settings', ...planSettings },
  { name: '006-show-summaries', ...showSummaries },
  { name: '007-rehearsal', ...rehearsal },
  { name: '008-measured-computer', ...measuredComputer },
  { name: '009-night', ...night },
  { name: '010-own-picture', ...ownPicture },
  { name: '011-night-shows', ...nightShows },
  { name: '012-night-under-way', ...nightUnderWay },
  { name: '013-scenes-on-air', ...scenesOnAir },
]
type Migration = (typeof migrations)[number]

/** The migrations as a list of modules rather than a folder, so that they survive bundling. */
export const migrationSource: Knex.MigrationSource<Migration> = {
  getMigrations: () => Promise.resolve(migrations),
  getMigrationName: (migration) => migration.name,
  getMigration: (migration) => Promise.resolve(migration),
}
