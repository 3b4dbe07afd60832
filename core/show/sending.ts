import { z } from 'zod'
import { limitedSchema } from './limits'

export const behindBehaviours = ['drop', 'lower', 'hold'] as const
/** What a sender does when the line carries less than it makes. */
export type BehindBehaviour = (typeof behindBehaviours)[number]

/** Common practice: a wait of some seconds before frames go, reconnect after 2 s, at most 25 tries. */
export const sendingLimits = {
  mostWaitSeconds: { min: 0.2, max: 60, default: 2.5 },
  lowerAfterSeconds: { min: 0.1, max: 30, default: 0.8 },
  lowerToPercent: { min: 10, max: 95, default: 70 },
  raiseByPercent: { min: 1, max: 50, default: 5 },
  leastPercent: { min: 5, max: 100, default: 40 },
  reconnectAfterSeconds: { min: 0.5, max: 120, default: 2 },
  reconnectTries: { min: 0, max: 1000, default: 25 },
} as const

// By names of their own: a bundler keeps what reads a property, and the schema library with it.
const { mostWaitSeconds, lowerAfterSeconds, lowerToPercent } = sendingLimits
const { raiseByPercent, leastPercent, reconnectAfterSeconds } = sendingLimits

export const sendingSchema = z.strictObject({
  whenBehind: z.enum(behindBehaviours),
  /** Frames that would wait longer than this are not sent any more. */
  mostWaitSeconds: limitedSchema(mostWaitSeconds),
  /** Over this wait the bitrate is lowered, where it may be. */
  lowerAfterSeconds: limitedSchema(lowerAfterSeconds),
  /** To this share of what it was, at each lowering. */
  lowerToPercent: limitedSchema(lowerToPercent),
  /** By this share of the planned bitrate, at each raising. */
  raiseByPercent: limitedSchema(raiseByPercent),
  /** Never below this share of the planned bitrate. */
  leastPercent: limitedSchema(leastPercent),
  reconnectAfterSeconds: limitedSchema(reconnectAfterSeconds),
  reconnectTries: z.int().min(0).max(1000),
})
/** How the sender of a destination behaves when the line or the destination fails it. */
export type Sending = z.infer<typeof sendingSchema>

export const defaultSending: Sending = {
  whenBehind: 'drop',
  mostWaitSeconds: sendingLimits.mostWaitSeconds.default,
  lowerAfterSeconds: sendingLimits.lowerAfterSeconds.default,
  lowerToPercent: sendingLimits.lowerToPercent.default,
  raiseByPercent: sendingLimits.raiseByPercent.default,
  leastPercent: sendingLimits.leastPercent.default,
  reconnectAfterSeconds: sendingLimits.reconnectAfterSeconds.default,
  reconnectTries: sendingLimits.reconnectTries.default,
}
