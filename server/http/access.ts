import { createHmac, timingSafeEqual } from 'node:crypto'

/**
 * What a browser keeps once the token was given: it proves that, and gives nothing of the token away. It
 * hangs on the key of the installation too, so that guessing it is no way to guess the token.
 */
export const passFor = (installationKey: Buffer, accessToken: string): string =>
  createHmac('sha256', installationKey)
    .update(`green-mantle access ${accessToken}`)
    .digest('base64url')

/** Wrong tokens of one address: so many at once, as a person with a list of own ones, then slowly. */
export const guessPace = { most: 10, aSecond: 0.2 } as const

/** Whether two texts are the same, in a time that says nothing about where they differ. */
export function isSameSecret(given: string, wanted: string): boolean {
  // Of equal length, whatever was given.
  const digest = (text: string): Buffer => createHmac('sha256', 'length').update(text).digest()
  return timingSafeEqual(digest(given), digest(wanted))
}

/** Only a path of our own is gone back to. */
export const safeReturn = (path: string): string => (/^\/(?![/\\])/.test(path) ? path : '/')

const escaped = (text: string): string =>
  text.replaceAll(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`)

export const accessPageHeaders = {
  'content-type': 'text/html; charset=utf-8',
  'cache-control': 'no-store',
  'content-security-policy':
    "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'",
} as const

/** Said where it cannot be known now who may see a page; it asks again by itself. */
export const notNowPage = `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Not now</title>
<meta name="viewport" content="width=device-width"><meta http-equiv="refresh" content="3">
<style>:root { color-scheme: light dark; font: 16px/1.5 system-ui, sans-serif } main { max-width: 30rem; margin: 4rem auto; padding: 0 1rem }</style></head>
<body><main><h1>The database does not answer</h1>
<p>This page is asked for again by itself every few seconds. Nothing is lost meanwhile.</p></main></body></html>`

export type AccessAnswer = 'asked' | 'wrong' | 'too many'

const saidOfAnswer: Readonly<Record<AccessAnswer, string>> = {
  asked: '',
  wrong: 'That is not the access token.',
  'too many':
    'Too many wrong access tokens came from here. Wait a few seconds before the next try.',
}

/** Asks for the token; `returnTo` is where it leads on to. */
export const accessPage = (returnTo: string, answer: AccessAnswer): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Access to Green Mantle</title>
<meta name="viewport" content="width=device-width">
<style>
  :root { color-scheme: light dark; font: 16px/1.5 system-ui, sans-serif }
  main { max-width: 30rem; margin: 4rem auto; padding: 0 1rem }
  label { display: block; margin: 1rem 0 .25rem }
  input, button { font: inherit; padding: .5rem; min-height: 2.5rem; width: 100%; box-sizing: border-box }
  button { margin-top: 1rem }
</style></head>
<body><main><h1>Access to Green Mantle</h1>
<p>This is somebody’s own installation. It asks once in this browser for the access token that was set on the machine it runs on (GREEN_MANTLE_ACCESS_TOKEN).</p>
${saidOfAnswer[answer] && `<p role="alert"><strong>${saidOfAnswer[answer]}</strong></p>`}
<form method="post" action="/access">
<input type="hidden" name="return" value="${escaped(returnTo)}">
<label for="token">Access token</label>
<input id="token" name="token" type="password" autocomplete="current-password" required autofocus>
<button>Go on</button>
</form></main></body></html>`
