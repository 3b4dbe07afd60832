/** Ties the person who comes back from an account service to the browser that went there. */
export const linkingCookie = {
  name: 'linking',
  options: { httpOnly: true, sameSite: 'lax', path: '/accounts', maxAge: 600 },
} as const
