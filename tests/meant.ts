/** What whoever changes something over the API has to say of it (`server/middleware/1.sameOrigin.ts`). */
export const meant = { 'x-green-mantle': 'test' } as const
