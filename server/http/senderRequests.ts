import { ProblemError } from './problem'

export const notSentFromHere = (): ProblemError =>
  new ProblemError({
    status: 409,
    title: 'It is not sent from here',
    detail: 'Begin with “Send from here”, or look there why this destination can’t be sent to.',
  })
