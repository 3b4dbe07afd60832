import type { NightPlan, SimulatedSend } from './nightPlan'
import { stepSeconds } from './lineNight'
import { pictureGroup } from './pictureGroup'
import { fluidQueue, frameQueue, type Queue } from './queues'

/** What an encode makes in one tick, at its planned bitrate. */
export interface Making {
  frames: number
  kbit: number
  isKeyframe: boolean
}

/** How finely a night is computed: one description and one seed, two ways. */
export interface Way {
  name: 'in steps' | 'frame by frame'
  tickSeconds(plan: NightPlan): number
  queue(): Queue
  /** Writes what a send's encode makes in the tick of this number into `making`. */
  maker(send: SimulatedSend, tickSeconds: number): (tick: number, making: Making) => void
  /** Frames that come too late are skipped whole, or as a share of what is made. */
  isWhole: boolean
}

/** In steps of 100 ms, frames as a fluid: for nights by the thousand. */
export const inSteps: Way = {
  name: 'in steps',
  tickSeconds: () => stepSeconds,
  queue: fluidQueue,
  maker: ({ framesPerSecond, fullKbps, keyframeIntervalSeconds }, seconds) => {
    const ticksPerKeyframe = keyframeIntervalSeconds / seconds
    return (tick, making) => {
      making.frames = framesPerSecond * seconds
      making.kbit = fullKbps * seconds
      making.isKeyframe =
        Math.floor(tick / ticksPerKeyframe + 1e-9) !==
        Math.floor((tick - 1) / ticksPerKeyframe + 1e-9)
    }
  },
  isWhole: false,
}

/** Frame by frame: keyframes, P- and B-frames of their sizes, whole ones dropped. */
export const byFrames: Way = {
  name: 'frame by frame',
  tickSeconds: ({ sends, recordings }) =>
    1 / Math.max(10, ...[...sends, ...recordings].map(({ framesPerSecond }) => framesPerSecond)),
  queue: frameQueue,
  maker: ({ framesPerSecond, fullKbps, keyframeIntervalSeconds, bFrames }, seconds) => {
    const group = pictureGroup(Math.round(keyframeIntervalSeconds * framesPerSecond), bFrames)
    const mean = fullKbps / framesPerSecond
    const perTick = framesPerSecond * seconds
    return (tick, making) => {
      const frame = Math.floor((tick + 1) * perTick + 1e-9)
      const before = Math.floor(tick * perTick + 1e-9)
      making.frames = frame - before
      const place = before % group.length
      making.kbit = making.frames * mean * (group[place] as number)
      making.isKeyframe = making.frames > 0 && place === 0
    }
  },
  isWhole: true,
}
