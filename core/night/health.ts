import { kbpsInWords } from '../words'

/** What is known of a send while it goes. */
export interface SendHealth {
  stage: 'ready' | 'connecting' | 'sending' | 'away' | 'given up' | 'ended'
  /** What the ingest or the connection said; may be empty. */
  words: string
  kbps: number
  plannedKbps: number
  behindSeconds: number
  /** The share of its planned bitrate that its encode makes now; absent where that is all of it. */
  share?: number | undefined
  /** Since the last frame that went out; 0 before the first, and once it is over. */
  stillSeconds: number
  sentFrames: number
  lostFrames: number
  /** Whether what the line carries and loses of it is not seen here, as over SRT where the way to the ingest cannot be watched. */
  isLossUnknown?: boolean | undefined
  /** Whether the line lets less of it through than was handed over, as where SRT gives frames up. */
  losesOnLine?: boolean | undefined
}

export type Blame = 'line' | 'computer' | 'destination'

export interface HealthInWords {
  tone: 'well' | 'attention' | 'fails'
  words: string
  blame: Blame | null
  /** What to do, first to last; common practice, no published source. */
  todo: readonly string[]
}

/** An encoder that is slower than this against real time does not keep up. */
const keepsUp = 0.97
/** What waits longer than this is behind. */
export const behindLimitSeconds = 1
/** Whether less of it gets out, or through, than is made. */
export const fallsShort = ({
  behindSeconds,
  losesOnLine,
}: Pick<SendHealth, 'behindSeconds' | 'losesOnLine'>): boolean =>
  behindSeconds > behindLimitSeconds || losesOnLine === true

const isLowered = ({ share = 1 }: SendHealth): boolean => share < 1
const suffers = (send: SendHealth): boolean => fallsShort(send) || isLowered(send)

/** Viewers notice more than 1 % of frames lost; less than half of that goes unseen. */
const noticedShare = 0.005

const todoFor: Record<Blame, readonly string[]> = {
  line: [
    'Stop what else uses the line: syncs, updates, calls.',
    'Lower the bitrate of the send you can spare most.',
    'End the send you can spare most.',
  ],
  computer: [
    'Close what else works on this computer.',
    'Choose a faster effort, then a smaller size, for the dearest encode.',
    'End one encode.',
  ],
  destination: [
    'Leave the others alone: they are well.',
    'Use its second ingest where it has one.',
    'Stop that send and start it again; press start on its page where that is pressed.',
  ],
}

/**
 * How one send is, and whose fault it is: an encoder below real time is the computer; more than one send
 * that is behind is the line; one alone among others that are well is its destination.
 */
export function healthInWords(
  send: SendHealth,
  { encoderSpeed, others }: { encoderSpeed: number | null; others: readonly SendHealth[] },
): HealthInWords {
  const quiet = (words: string): HealthInWords => ({ tone: 'well', words, blame: null, todo: [] })
  if (send.stage === 'ready') return quiet('ready to send')
  if (send.stage === 'ended') return quiet('ended')
  if (send.stage === 'given up')
    return {
      tone: 'fails',
      words: `given up: ${send.words}`,
      blame: 'destination',
      todo: todoFor.destination,
    }
  const otherIsAway = others.some(({ stage }) => stage === 'away' || stage === 'connecting')
  if (send.stage === 'away' || (send.stage === 'connecting' && send.words !== '')) {
    const blame = others.length > 0 && otherIsAway ? 'line' : 'destination'
    return { tone: 'fails', words: `comes back: ${send.words}`, blame, todo: todoFor[blame] }
  }
  if (send.stage === 'connecting') return quiet('connecting')
  if (encoderSpeed !== null && encoderSpeed < keepsUp)
    return {
      tone: 'attention',
      words: `the encoder runs at ${encoderSpeed.toFixed(2)} of real time: the computer`,
      blame: 'computer',
      todo: todoFor.computer,
    }
  if (fallsShort(send)) {
    const blame = others.length === 0 || others.some(suffers) ? 'line' : 'destination'
    const how =
      send.behindSeconds > behindLimitSeconds
        ? `behind by ${send.behindSeconds.toFixed(1)} s`
        : `${kbpsInWords(send.kbps)} of ${kbpsInWords(send.plannedKbps)} get through`
    return {
      tone: 'attention',
      words: `${how}: the ${blame}`,
      blame,
      todo: todoFor[blame],
    }
  }
  if (isLowered(send)) {
    const blame = others.length === 0 || others.some(suffers) ? 'line' : 'destination'
    const words = `lowered to ${Math.round(100 * (send.share ?? 1))} % of its bitrate: the ${blame}`
    return { tone: 'attention', words, blame, todo: todoFor[blame] }
  }
  const made = send.sentFrames + send.lostFrames
  if (made > 0 && send.lostFrames / made > noticedShare)
    return {
      tone: 'attention',
      words: `${((100 * send.lostFrames) / made).toFixed(1)} % of frames lost so far`,
      blame: null,
      todo: [],
    }
  return quiet(`steady, ${kbpsInWords(send.kbps)}`)
}
