import { z } from 'zod'

export const codecs = ['h264', 'hevc', 'av1'] as const
export type Codec = (typeof codecs)[number]
export const codecSchema = z.enum(codecs)

/** How hard an encoder works per frame, from least to most. */
export const efforts = ['fastest', 'brisk', 'balanced', 'fine', 'finest'] as const
export type Effort = (typeof efforts)[number]
export const effortSchema = z.enum(efforts)
