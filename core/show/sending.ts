import { z } from 'zod'
import { limitedSchema } from './limits'

export const behindBehaviours = ['drop', 'lower', 'hold'] as const
/** What a sender does when the line carries less than it makes. */
export type BehindBehaviour = (typeof behindBehaviours)[number]

/** Common practice: a wait of some seconds before frames go, reconnect after 2 s, at most 25 tries. */
export const sendingLimits = {
  mostWaitSeconds: { least: 0.2, most: 60, usual: 2.5 },
  lowerAfterSeconds: { least: 0.1, most: 30, usual: 0.8 },
  lowerToPercent: { least: 10, most: 95, usual: 70 },
  raiseByPercent: { least: 1, most: 50, usual: 5 },
  leastPercent: { least: 5, most: 100, usual: 40 },
  reconnectAfterSeconds: { least: 0.5, most: 120, usual: 2 },
  reconnectTries: { least: 0, most: 1000, usual: 25 },
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
  mostWaitSeconds: sendingLimits.mostWaitSeconds.usual,
  lowerAfterSeconds: sendingLimits.lowerAfterSeconds.usual,
  lowerToPercent: sendingLimits.lowerToPercent.usual,
  raiseByPercent: sendingLimits.raiseByPercent.usual,
  leastPercent: sendingLimits.leastPercent.usual,
  reconnectAfterSeconds: sendingLimits.reconnectAfterSeconds.usual,
  reconnectTries: sendingLimits.reconnectTries.usual,
}
