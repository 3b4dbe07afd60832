import { apiHandler } from '../http/apiHandler'
import { ProblemError } from '../http/problem'

export default apiHandler(() => {
  throw new ProblemError({
    status: 404,
    title: 'There is nothing here',
    detail: 'This address is not one of the application’s.',
  })
})
