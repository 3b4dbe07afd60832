import { ask, withJson } from './ask'

/** A ticket for the one socket of a show's on-air window; a problem of status 409 where another window draws it. */
export async function openOnAir(showId: string, takesOver: boolean): Promise<string> {
  const answer = await ask(`/shows/${showId}/on-air`, withJson('POST', { takesOver }))
  return ((await answer.json()) as { ticket: string }).ticket
}
