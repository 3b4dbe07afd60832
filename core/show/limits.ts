import { z } from 'zod'

interface Limits {
  min: number
  max: number
}

/** A number between limits that the interface shows too. */
export const limitedSchema = ({ min, max }: Limits) => z.number().min(min).max(max)

/** A whole number between limits that the interface shows too. */
export const limitedIntegerSchema = ({ min, max }: Limits) => z.int().min(min).max(max)
