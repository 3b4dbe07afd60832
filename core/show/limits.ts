import { z } from 'zod'

/** A number between limits that the interface shows too. */
export const limitedSchema = ({ least, most }: { least: number; most: number }) =>
  z.number().min(least).max(most)
