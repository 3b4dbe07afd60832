import { escaped, page } from '../../standIns/page'
import { listGrants, standInAccounts } from './service'

/** Asks a person whether Green Mantle may use one of their accounts. */
export function consentPage(hidden: Record<string, string>): string {
  const fields = Object.entries(hidden)
    .map(
      ([name, value]) => `<input type="hidden" name="${escaped(name)}" value="${escaped(value)}">`,
    )
    .join('')
  const choices = standInAccounts
    .map(
      ({ id, name }, index) =>
        `<label><input type="radio" name="account" value="${id}"${index === 0 ? ' checked' : ''}> ${escaped(name)}</label>`,
    )
    .join('')
  return page(
    'Link an account',
    `<p>This is a practice account service that ships with Green Mantle. No real account is used.</p>
    <p><strong>Green Mantle</strong> asks to see your pages and scheduled events, and to send to them.</p>
    <form method="post" action="/stand-ins/accounts/authorize">${fields}
    <fieldset><legend>Which account</legend>${choices}</fieldset>
    <button name="answer" value="allow">Allow</button><button name="answer" value="refuse">Refuse</button></form>`,
  )
}

/** What the account's owner sees there: who may use it, to be ended. */
export function grantsPage(): string {
  const rows = listGrants()
    .map(
      ({ id, accountName, isAccessOver, mayGoLive, isOnPhone }) =>
        `<form method="post" action="/stand-ins/accounts/grants"><p>${escaped(accountName)}: Green Mantle${isAccessOver ? ', access token over' : ''}${mayGoLive ? '' : ', may not go live'}${isOnPhone ? ', logged in on a phone' : ''}</p>
        <input type="hidden" name="grant" value="${escaped(id)}">
        <button name="change" value="end access">End the access token</button>
        <button name="change" value="revoke">Revoke</button>
        <button name="change" value="going live">${mayGoLive ? 'Forbid going live' : 'Allow going live'}</button>
        <button name="change" value="phone">${isOnPhone ? 'Log out on the phone' : 'Log in on a phone'}</button></form>`,
    )
    .join('')
  return page('Who may use your accounts', rows || '<p>Nobody.</p>')
}
