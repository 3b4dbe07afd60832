import { type Conditions, conditionsOf } from './conditions'
import { stepSeconds, stepsPerSecond } from './lineNight'
import { viewing } from './mediumTable'
import type { NightPlan } from './nightPlan'
import {
  type LossCause,
  lossCauses,
  type NightEvent,
  type NightOutcome,
  type RecordingOutcome,
  type SendOutcome,
} from './outcome'
import { newPassing } from './passing'
import { breakOff, decide, lose, newSender, offer, type Sender, tryAgain, watch } from './sender'
import { enterStep, newStepState, noteLoads } from './stepState'
import type { NightTrace } from './trace'
import type { Making, Way } from './ways'

/** The log keeps no more events than a person could read. */
const maxEvents = 2000

/**
 * Seconds in which nothing can go wrong: the line carries everything that is planned, nothing is
 * lost, no device is over full, no destination refuses or is slow. With all queues empty, everything
 * that is made in them arrives.
 */
function calmSeconds(plan: NightPlan, conditions: Conditions): Uint8Array {
  const { capacityKbps, lossShare, loads, refuses, slow, steps } = conditions
  const seconds = Math.floor(steps / stepsPerSecond)
  const calm = new Uint8Array(seconds)
  const total = plan.sends.reduce((sum, { fullKbps }) => sum + fullKbps, 0)
  const isHeld = plan.sends.some(({ fullKbps, ceilingKbps }) => fullKbps > ceilingKbps)
  if (isHeld) return calm
  for (let second = 0; second < seconds; second += 1) {
    let isCalm = true
    for (let step = second * stepsPerSecond; step < (second + 1) * stepsPerSecond; step += 1)
      if ((capacityKbps[step] as number) < total || (lossShare[step] as number) > 0) isCalm = false
    for (const load of loads) if ((load[second] as number) > 1) isCalm = false
    calm[second] = isCalm ? 1 : 0
  }
  for (const spans of [...refuses, ...slow])
    for (const { from, to } of spans)
      calm.fill(0, Math.floor(from / stepsPerSecond), Math.ceil(to / stepsPerSecond))
  if (conditions.diskFullAt < steps)
    calm.fill(0, Math.floor(conditions.diskFullAt / stepsPerSecond))
  return calm
}

interface Pair {
  main: number
  backup: number
}

/** The main and the second ingest of one destination: what one of them brings, viewers have. */
function pairsOf({ sends }: NightPlan): Pair[] {
  return sends.flatMap((send, backup) => {
    if (!send.isBackup) return []
    const main = sends.findIndex(({ key }) => `${key} backup` === send.key)
    return main < 0 ? [] : [{ main, backup }]
  })
}

/** A sender at rest: nothing waits, nothing is lowered, everybody sees it. */
const isResting = (sender: Sender, now: number): boolean =>
  sender.mode === 'sending' &&
  sender.share === 1 &&
  sender.queue.kbit === 0 &&
  now >= sender.seenFrom

/** A stretch in which everything that is made arrives. */
function restFor(sender: Sender, seconds: number): void {
  const frames = sender.send.framesPerSecond * seconds
  sender.made += frames
  sender.delivered += frames
  sender.scoreSum += sender.score * seconds
  sender.clearSeconds += seconds
  sender.waitSeconds = 0
  sender.isFrozen = false
}

const outcomeOf = (sender: Sender, seconds: number): SendOutcome => ({
  key: sender.send.key,
  name: sender.send.name,
  destinationId: sender.send.destinationId,
  made: sender.made,
  delivered: sender.delivered,
  waiting: sender.queue.frames,
  lost: sender.lost,
  lostToViewers: sender.lostToViewers,
  awaySeconds: sender.awaySeconds,
  longestBehindSeconds: sender.longestBehindSeconds,
  seenAfterSeconds:
    sender.send.lagSeconds + viewing.playerBufferSeconds + sender.longestBehindSeconds,
  freezes: sender.freezes,
  minShare: sender.minShare,
  meanScore: sender.scoreSum / seconds,
})

/** What the line carries in a tick, which may lie across the border of two steps. */
function capacityDuring({ capacityKbps, steps }: Conditions, now: number, tick: number): number {
  const step = Math.min(steps - 1, Math.floor(now / stepSeconds + 1e-6))
  const own = capacityKbps[step] as number
  const beyond = (now + tick - (step + 1) * stepSeconds) / tick
  if (beyond <= 1e-6 || step + 1 >= steps) return own
  return own + beyond * ((capacityKbps[step + 1] as number) - own)
}

/** Computes one night of a seed. `trace` is filled second by second, where the night is to be looked at. */
export function runNight(
  plan: NightPlan,
  seed: number,
  night: number,
  way: Way,
  trace?: NightTrace,
): NightOutcome {
  const conditions = conditionsOf(plan, seed, night)
  const tick = way.tickSeconds(plan)
  const ticks = Math.round(plan.seconds / tick)
  const senders = plan.sends.map((send) => newSender(send, way.queue()))
  const makers = plan.sends.map((send) => way.maker(send, tick))
  const count = senders.length
  const pairs = pairsOf(plan)
  const isPaired = plan.sends.map((_, index) =>
    pairs.some(({ main, backup }) => index === main || index === backup),
  )
  const skipDebt = new Float64Array(count)
  const recordings: RecordingOutcome[] = plan.recordings.map(({ id, name }) => ({
    id,
    name,
    made: 0,
    lost: { line: 0, computer: 0, destination: 0 },
  }))
  const events: NightEvent[] = []
  let eventsLeftOut = 0
  let firstLoss: NightOutcome['firstLoss'] = null
  let now = 0
  const tell = (kind: NightEvent['kind'], who: string, cause: LossCause | null, value: number) => {
    if (events.length < maxEvents) events.push({ atSeconds: now, kind, who, cause, value })
    else eventsLeftOut += 1
  }
  const state = newStepState(plan)
  const passing = newPassing(count)
  const making: Making = { frames: 0, kbit: 0, isKeyframe: false }
  const calm = way.isWhole ? null : calmSeconds(plan, conditions)

  /** What an encode makes in this tick, less what comes too late, into its sender. */
  const make = (sender: Sender, index: number, number: number): void => {
    const { send } = sender
    sender.lostNow = 0
    const maker = makers[index] as (typeof makers)[number]
    maker(number, making)
    let { frames, kbit } = making
    sender.made += frames
    const skipped = send.device < 0 ? 0 : (state.skippedShare[send.device] as number)
    if (skipped > 0 && frames > 0) {
      const debt = (skipDebt[index] as number) + frames * skipped
      const late = way.isWhole ? Math.min(frames, Math.floor(debt)) : debt
      skipDebt[index] = debt - late
      lose(sender, late, 'computer')
      kbit *= 1 - late / frames
      frames -= late
    }
    const refuses = state.refuses[index] === 1
    if (refuses && sender.mode !== 'gone' && sender.mode !== 'over')
      breakOff(sender, 'destination', now, tell)
    else if (sender.mode === 'gone' && now >= sender.retryAt)
      tryAgain(sender, !refuses && state.capacityKbps > 0, now, tell)
    if (frames > 0 || making.isKeyframe)
      offer(sender, frames, kbit * sender.share, making.isKeyframe, tell)
  }

  /** What became of it: sent, waiting, lost. */
  const settle = (sender: Sender, index: number): void => {
    const { send, queue } = sender
    const sent = passing.sentKbit[index] as number
    if (queue.kbit > 0) {
      if (sent < queue.kbit - 1e-9)
        sender.cause = state.isSlow[index] === 1 && state.capacityKbps > 0 ? 'destination' : 'line'
      sender.delivered += queue.take(sent)
    }
    if (send.transport === 'udp') lose(sender, queue.clear(), 'line')
    if (sender.mode === 'sending' || sender.mode === 'dropping')
      decide(sender, sent, tick, now, tell)
    else sender.waitSeconds = 0
    if (sender.lostNow > 0 && firstLoss === null) {
      const cause = lossCauses.find((name) => sender.lost[name] > 0) ?? 'line'
      firstLoss = { atSeconds: now, cause, who: send.name }
    }
    watch(sender, tick, now)
    if (isPaired[index] !== true) sender.lostToViewers += sender.lostNow
    trace?.tick(index, Math.floor(state.step / stepsPerSecond), sender, sent)
  }

  const record = (seconds: number): void => {
    for (let index = 0; index < recordings.length; index += 1) {
      const { framesPerSecond, device, name } = plan.recordings[
        index
      ] as NightPlan['recordings'][number]
      const recording = recordings[index] as RecordingOutcome
      const frames = framesPerSecond * seconds
      recording.made += frames
      const skipped = device < 0 ? 0 : (state.skippedShare[device] as number)
      const lost = state.isDiskFull ? frames : frames * skipped
      if (lost <= 0) continue
      if (state.isDiskFull && !wasDiskFull) tell('disk full', name, 'computer', 0)
      recording.lost.computer += lost
      firstLoss ??= { atSeconds: now, cause: 'computer', who: name }
    }
    wasDiskFull ||= state.isDiskFull
  }
  let wasDiskFull = false

  for (let number = 0; number < ticks; number += 1) {
    now = number * tick
    const step = Math.min(conditions.steps - 1, Math.floor(now / stepSeconds + 1e-6))
    if (calm !== null && step % stepsPerSecond === 0) {
      const second = step / stepsPerSecond
      const isRest =
        calm[second] === 1 &&
        senders.every((sender) => isResting(sender, now)) &&
        state.behindSeconds.every((behind) => behind === 0)
      if (isRest) {
        // In a calm second nothing happens to senders at rest.
        for (const sender of senders) restFor(sender, 1)
        record(1)
        noteLoads(state, conditions, second)
        trace?.rest(second, conditions)
        number += stepsPerSecond - 1
        continue
      }
    }
    if (step !== state.step) {
      enterStep(state, step, plan, conditions, tell)
      trace?.line(Math.floor(step / stepsPerSecond), conditions, step)
    }
    if (way.isWhole) state.capacityKbps = capacityDuring(conditions, now, tick)
    for (let index = 0; index < count; index += 1) make(senders[index] as Sender, index, number)
    passing.pass(senders, state, tick)
    for (let index = 0; index < count; index += 1) settle(senders[index] as Sender, index)
    for (const { main, backup } of pairs) {
      const [one, two] = [senders[main] as Sender, senders[backup] as Sender]
      const both = Math.min(one.lostNow, two.lostNow)
      one.lostToViewers += both
      two.lostToViewers += both
    }
    record(tick)
  }
  return {
    night,
    seconds: plan.seconds,
    sends: senders.map((sender) => outcomeOf(sender, plan.seconds)),
    recordings,
    maxLoad: state.maxLoad,
    events,
    eventsLeftOut,
    firstLoss,
  }
}
