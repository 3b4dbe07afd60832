import type { AccountState } from '@green-mantle/core/night'
import { ask } from './ask'

export interface LinkedAccountRecord {
  id: string
  service: string
  name: string
  linkedAt: string
}
export interface AccountPage {
  id: string
  name: string
  events: { id: string; title: string }[]
}

export async function fetchAccounts(): Promise<LinkedAccountRecord[]> {
  return (await ask('/accounts')).json() as Promise<LinkedAccountRecord[]>
}

export async function fetchPages(accountId: string): Promise<AccountPage[]> {
  return (await ask(`/accounts/${accountId}/pages`)).json() as Promise<AccountPage[]>
}

export async function fetchAccountState(accountId: string): Promise<AccountState> {
  return (await ask(`/accounts/${accountId}/state`)).json() as Promise<AccountState>
}

export async function unlinkAccount(accountId: string): Promise<void> {
  await ask(`/accounts/${accountId}`, { method: 'DELETE' })
}

/** Opened in a window of its own, since it leads to another site and back. */
export const linkingAddress = '/api/accounts/start'

/** How the window that comes back tells the one that waits. */
export const linkingChannel = 'linked-accounts'
export interface LinkingOutcome {
  outcome: 'linked' | 'refused' | 'failed'
  accountId: string
}
