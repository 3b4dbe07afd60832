import type { AccountState } from '@green-mantle/core/night'
import { readLinkedAccount } from '../../../accounts/linkedAccount'
import { apiHandler } from '../../../http/apiHandler'
import { ProblemError } from '../../../http/problem'

/** Whether a linked account is still good to go live with, as its service says it now. */
export default apiHandler(async (event): Promise<AccountState> => {
  try {
    const { live, sessions } = await readLinkedAccount(event)
    return {
      isLinked: true,
      mayGoLive: live?.allowed ?? null,
      alsoOn: (sessions ?? []).map(({ device }) => device),
    }
  } catch (error) {
    // That it has run out is what was asked for, and no error of the asking.
    if (error instanceof ProblemError && error.details.status === 409)
      return { isLinked: false, mayGoLive: null, alsoOn: [] }
    throw error
  }
})
