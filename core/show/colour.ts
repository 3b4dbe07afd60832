import { z } from 'zod'

export const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour as #rrggbb in lower case')
