const entities: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
}
export const escaped = (text: string): string =>
  text.replaceAll(/[&<>"']/g, (sign) => entities[sign] ?? '')

const style = `
  :root { color-scheme: light dark; font: 16px/1.5 system-ui, sans-serif }
  main { max-width: 34rem; margin: 3rem auto; padding: 0 1rem }
  fieldset { border: 1px solid; border-radius: 8px; padding: .75rem 1rem; margin: 1rem 0 }
  label { display: block; padding: .35rem 0 }
  code { overflow-wrap: anywhere }
  button { font: inherit; padding: .4rem 1rem; margin-right: .5rem; min-height: 32px }`

/** A page of a service that stands in for another one; `againSeconds` loads it again by itself. */
export const page = (title: string, body: string, againSeconds?: number): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escaped(title)}</title>
  ${againSeconds ? `<meta http-equiv="refresh" content="${againSeconds}">` : ''}
  <meta name="viewport" content="width=device-width"><style>${style}</style></head>
  <body><main><h1>${escaped(title)}</h1>${body}</main></body></html>`

/** Nothing runs or loads on these pages, and nobody frames them. */
export const pageHeaders = {
  'content-type': 'text/html; charset=utf-8',
  'content-security-policy':
    "default-src 'none'; style-src 'unsafe-inline'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'",
} as const
