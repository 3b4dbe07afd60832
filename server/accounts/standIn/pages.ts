import { listGrants, standInAccounts } from './service'

const entities: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
}
const escaped = (text: string): string =>
  text.replaceAll(/[&<>"']/g, (sign) => entities[sign] ?? '')

const style = `
  :root { color-scheme: light dark; font: 16px/1.5 system-ui, sans-serif }
  main { max-width: 34rem; margin: 3rem auto; padding: 0 1rem }
  fieldset { border: 1px solid; border-radius: 8px; padding: .75rem 1rem; margin: 1rem 0 }
  label { display: block; padding: .35rem 0 }
  button { font: inherit; padding: .4rem 1rem; margin-right: .5rem; min-height: 32px }`

const page = (title: string, body: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escaped(title)}</title>
  <meta name="viewport" content="width=device-width"><style>${style}</style></head>
  <body><main><h1>${escaped(title)}</h1>${body}</main></body></html>`

/** Nothing runs or loads on these pages, and nobody frames them. */
export const pageHeaders = {
  'content-type': 'text/html; charset=utf-8',
  'content-security-policy':
    "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'",
} as const

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
      ({ id, accountName, isAccessOver }) =>
        `<form method="post" action="/stand-ins/accounts/grants"><p>${escaped(accountName)}: Green Mantle${isAccessOver ? ', access token over' : ''}</p>
        <input type="hidden" name="grant" value="${escaped(id)}">
        <button name="change" value="end access">End the access token</button>
        <button name="change" value="revoke">Revoke</button></form>`,
    )
    .join('')
  return page('Who may use your accounts', rows || '<p>Nobody.</p>')
}
