import { type Lowering, nextShare } from './lowering'
import { sendingPractice, viewing } from './mediumTable'
import type { SimulatedSend } from './nightPlan'
import type { LossCause, NightEvent } from './outcome'
import type { Queue } from './queues'

/** What a sender is doing. */
export const senderModes = ['sending', 'dropping', 'gone', 'waiting', 'over'] as const
export type SenderMode = (typeof senderModes)[number]

/** A sender in the middle of a night. */
export interface Sender extends Lowering {
  send: SimulatedSend
  queue: Queue
  mode: SenderMode
  made: number
  delivered: number
  lost: Record<LossCause, number>
  lostNow: number
  lostToViewers: number
  awaySeconds: number
  awayNow: boolean
  awaySince: number
  longestBehindSeconds: number
  waitSeconds: number
  freezes: number
  isFrozen: boolean
  minShare: number
  scoreSum: number
  /** The picture's score at its present share. */
  score: number
  silentSeconds: number
  retryAt: number
  tries: number
  /** From when on viewers see it, after somebody had to press start again. */
  seenFrom: number
  /** Whose fault it is that it does not get on. */
  cause: LossCause
  /** Frames lost since it last began to lose. */
  losing: number
}

export const newSender = (send: SimulatedSend, queue: Queue): Sender => ({
  send,
  queue,
  mode: 'sending',
  share: 1,
  made: 0,
  delivered: 0,
  lost: { line: 0, computer: 0, destination: 0 },
  lostNow: 0,
  lostToViewers: 0,
  awaySeconds: 0,
  awayNow: false,
  awaySince: Infinity,
  longestBehindSeconds: 0,
  waitSeconds: 0,
  freezes: 0,
  isFrozen: false,
  minShare: 1,
  scoreSum: 0,
  score: send.scoreAt(1),
  silentSeconds: 0,
  clearSeconds: 0,
  loweredAt: -Infinity,
  retryAt: 0,
  tries: 0,
  seenFrom: 0,
  cause: 'line',
  losing: 0,
})

export type Tell = (
  kind: NightEvent['kind'],
  who: string,
  cause: LossCause | null,
  value: number,
) => void

function setShare(sender: Sender, share: number): void {
  sender.share = share
  sender.score = sender.send.scoreAt(share)
}

export function lose(sender: Sender, frames: number, cause: LossCause): void {
  if (frames <= 0) return
  sender.lost[cause] += frames
  sender.lostNow += frames
  sender.losing += frames
}

/** The connection is gone: what waited is lost with it. */
export function breakOff(sender: Sender, cause: LossCause, now: number, tell: Tell): void {
  lose(sender, sender.queue.clear(), cause)
  sender.mode = 'gone'
  sender.cause = cause
  sender.retryAt = now + sender.send.sending.reconnectAfterSeconds
  sender.tries = 0
  sender.silentSeconds = 0
  sender.awaySince = now
  tell('gone', sender.send.key, cause, 0)
  if (sender.send.sending.reconnectTries > 0) return
  sender.mode = 'over'
  tell('given up', sender.send.key, cause, 0)
}

/** One attempt to come back; `isThere` says whether line and destination take it. */
export function tryAgain(sender: Sender, isThere: boolean, now: number, tell: Tell): void {
  const { send } = sender
  if (!isThere) {
    sender.tries += 1
    sender.retryAt = now + send.sending.reconnectAfterSeconds
    if (sender.tries >= send.sending.reconnectTries) {
      sender.mode = 'over'
      tell('given up', send.key, sender.cause, sender.tries)
    }
    return
  }
  sender.mode = 'waiting'
  setShare(sender, 1)
  if (!send.startIsPressed) return
  // Nobody can press before the picture is there, and it is there only after the destination's lag.
  const untilPressed = send.lagSeconds + viewing.pressAgainSeconds
  sender.seenFrom = now + untilPressed
  tell('start again', send.key, sender.cause, untilPressed)
}

/** New frames of a sender: into its queue, or lost by what it is doing. `kbit` at its present share. */
export function offer(
  sender: Sender,
  frames: number,
  kbit: number,
  isKeyframe: boolean,
  tell: Tell,
): void {
  const { send, queue } = sender
  if (isKeyframe && sender.mode === 'waiting') {
    sender.mode = 'sending'
    sender.awaySince = Infinity
    tell('back', send.key, sender.cause, sender.losing)
    sender.losing = 0
  } else if (isKeyframe && sender.mode === 'dropping' && sender.waitSeconds <= waitLimit(sender)) {
    sender.mode = 'sending'
    tell('sends again', send.key, sender.cause, sender.losing)
    sender.losing = 0
  }
  if (sender.mode === 'sending') queue.add(kbit, frames)
  else lose(sender, frames, sender.cause)
}

const waitLimit = ({ send: { sending, transport } }: Sender): number =>
  transport === 'srt'
    ? sendingPractice.srtLatencySeconds
    : sending.whenBehind === 'hold'
      ? sendingPractice.longestHoldSeconds
      : sending.mostWaitSeconds

/** After it got what the line gave: what it does about what still waits. `sentKbit` is what went off. */
export function decide(
  sender: Sender,
  sentKbit: number,
  seconds: number,
  now: number,
  tell: Tell,
): void {
  const { send, queue } = sender
  const { sending } = send
  sender.waitSeconds = queue.kbit <= 0 ? 0 : queue.kbit / (send.fullKbps * sender.share)
  const { waitSeconds } = sender
  if (waitSeconds > sender.longestBehindSeconds) sender.longestBehindSeconds = waitSeconds

  if (queue.kbit > 0 && sentKbit <= 0) {
    sender.silentSeconds += seconds
    if (sender.silentSeconds >= sendingPractice.goneAfterSeconds) {
      breakOff(sender, sender.cause, now, tell)
      return
    }
  } else sender.silentSeconds = 0

  if (sending.whenBehind === 'lower') {
    const was = sender.share
    const share = nextShare(sender, sending, { waitSeconds, seconds, now })
    if (share !== was) setShare(sender, share)
    if (share < was && was === 1) tell('lowers', send.key, sender.cause, 0)
    sender.minShare = Math.min(sender.minShare, share)
    if (share === 1 && was < 1) tell('full again', send.key, null, sender.minShare)
  }

  if (sender.mode === 'sending' && waitSeconds > waitLimit(sender)) {
    sender.mode = 'dropping'
    tell('drops', send.key, sender.cause, 0)
  }
  // What SRT could not send within its latency is not wanted any more.
  if (send.transport === 'srt' && waitSeconds > sendingPractice.srtLatencySeconds)
    lose(
      sender,
      queue.cutTo(sendingPractice.srtLatencySeconds * send.fullKbps * sender.share),
      sender.cause,
    )
}

/** What viewers have of it in this tick. */
export function watch(sender: Sender, seconds: number, now: number): void {
  const isAway = sender.mode === 'gone' || sender.mode === 'waiting' || sender.mode === 'over'
  sender.awayNow = isAway || now < sender.seenFrom
  if (sender.awayNow) sender.awaySeconds += seconds
  const isFrozen =
    sender.waitSeconds > viewing.playerBufferSeconds ||
    (isAway && now - sender.awaySince > viewing.playerBufferSeconds)
  // A picture that stands still, or of which frames are missing, is worth nothing meanwhile.
  if (!sender.awayNow && !isFrozen && sender.mode !== 'dropping')
    sender.scoreSum += sender.score * seconds
  if (isFrozen && !sender.isFrozen) sender.freezes += 1
  sender.isFrozen = isFrozen
}
