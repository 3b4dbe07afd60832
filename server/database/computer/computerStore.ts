import { type Computer, computerSchema } from '@green-mantle/core/show'
import type { Knex } from 'knex'
import { nanoid } from 'nanoid'
import { parsed } from '../shows/row'

/** The one row there is. */
const only = 1

interface ComputerRow {
  id: number
  installation: string
  computer: unknown
}

/** The identifier of this installation, given at first sight, and its computer; null until it was measured. */
export async function readOwnComputer(
  database: Knex,
): Promise<{ installation: string; computer: Computer | null }> {
  const find = (): Promise<ComputerRow | undefined> =>
    database<ComputerRow>('own_computer').where({ id: only }).first()
  let row = await find()
  if (!row) {
    await database.raw(
      'INSERT IGNORE INTO own_computer (id, installation, computer) VALUES (?, ?, NULL)',
      [only, nanoid(21)],
    )
    row = (await find()) as ComputerRow
  }
  const kept = parsed(row.computer)
  return { installation: row.installation, computer: kept ? computerSchema.parse(kept) : null }
}

/** Keeps what was measured; resolves after commit. */
export async function keepOwnComputer(database: Knex, computer: Computer): Promise<void> {
  await database<ComputerRow>('own_computer')
    .where({ id: only })
    .update({ computer: JSON.stringify(computerSchema.parse(computer)) })
}
