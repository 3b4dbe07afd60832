import type { Knex } from 'knex'
import { type TokenGrant, type Tokens, tokensSchema } from '../../accounts/linking'
import type { InstallationKey } from '../../secrets/keyFile'
import { seal, unseal } from '../../secrets/sealing'

export interface LinkedAccountRecord {
  id: string
  service: string
  name: string
  linkedAt: string
}

interface AccountRow {
  id: string
  service: string
  name: string
  sealed_tokens: string
  linked_at: Date
  access_ends_at: Date
}

const placeOf = (id: string): string => `account/${id}`

export async function listAccounts(database: Knex): Promise<LinkedAccountRecord[]> {
  const rows = await database<AccountRow>('linked_accounts').orderBy('name')
  return rows.map(({ id, service, name, linked_at }) => ({
    id,
    service,
    name,
    linkedAt: new Date(linked_at).toISOString(),
  }))
}

/** Keeps an account with its tokens, sealed; one that was linked before gets the new ones. */
export async function saveAccount(
  database: Knex,
  key: InstallationKey,
  account: { id: string; service: string; name: string },
  { tokens, accessEndsAt }: TokenGrant,
): Promise<void> {
  await database('linked_accounts')
    .insert({
      ...account,
      sealed_tokens: seal(key, JSON.stringify(tokens), placeOf(account.id)),
      linked_at: new Date(),
      access_ends_at: accessEndsAt,
    })
    .onConflict('id')
    .merge()
}

/** The tokens of an account; undefined where there is none, or they cannot be opened here. */
export async function openTokens(
  database: Knex,
  key: InstallationKey,
  id: string,
): Promise<{ tokens: Tokens; accessEndsAt: Date; service: string; name: string } | undefined> {
  const row = await database<AccountRow>('linked_accounts').where({ id }).first()
  if (!row) return undefined
  const opened = unseal(key, row.sealed_tokens, placeOf(id))
  if (opened.outcome !== 'opened') return undefined
  const tokens = tokensSchema.parse(JSON.parse(opened.text))
  const { service, name, access_ends_at } = row
  return { tokens, accessEndsAt: new Date(access_ends_at), service, name }
}

export async function removeAccount(database: Knex, id: string): Promise<void> {
  await database('linked_accounts').where({ id }).delete()
}
