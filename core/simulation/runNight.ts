import { tcpCeilingKbps } from '../network'
import { type Conditions, conditionsOf, type Span } from './conditions'
import { stepSeconds, stepsPerSecond } from './lineNight'
import { sendingPractice } from './mediumTable'
import type { NightPlan } from './nightPlan'
import type { LossCause, NightEvent, NightOutcome, RecordingOutcome } from './outcome'
import { breakOff, decide, lose, newSender, offer, type Sender, tryAgain, watch } from './sender'
import { shareOut } from './sharing'
import type { NightTrace } from './trace'
import type { Making, Way } from './ways'

/** The log keeps no more events than a person could read. */
const mostEvents = 2000
/** A device may be this far behind before frames come too late. */
const lateAfterSeconds = 0.5

const isIn = (spans: readonly Span[], step: number): boolean =>
  spans.some(({ from, to }) => step >= from && step < to)

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
  const pairs = pairsOf(plan)
  const paired = new Set(pairs.flatMap(({ main, backup }) => [main, backup]))
  const behind = plan.devices.map(() => 0)
  const mostLoad = plan.devices.map(({ load }) => load)
  const skipDebt = plan.sends.map(() => 0)
  const recordings: RecordingOutcome[] = plan.recordings.map(({ id, name }) => ({
    id,
    name,
    made: 0,
    lost: { line: 0, computer: 0, destination: 0 },
  }))
  const events: NightEvent[] = []
  let firstLoss: NightOutcome['firstLoss'] = null
  let now = 0
  const tell = (kind: NightEvent['kind'], who: string, cause: LossCause | null, value: number) => {
    if (events.length < mostEvents) events.push({ atSeconds: now, kind, who, cause, value })
  }
  const demands = new Float64Array(senders.length)
  const order = Uint8Array.from(senders, (_, index) => index)
  const making: Making = { frames: 0, kbit: 0, isKeyframe: false }
  const calm = way.isWhole ? null : calmSeconds(plan, conditions)
  let wasDiskFull = false

  const isAtRest = (): boolean =>
    senders.every(
      (sender) =>
        sender.mode === 'sending' &&
        sender.share === 1 &&
        sender.queue.kbit === 0 &&
        now >= sender.seenFrom,
    ) && behind.every((seconds) => seconds === 0)

  const restFor = (seconds: number): void => {
    for (const sender of senders) {
      const frames = sender.send.framesPerSecond * seconds
      sender.made += frames
      sender.delivered += frames
      sender.scoreSum += sender.send.scoreAt(1) * seconds
      sender.clearSeconds += seconds
      sender.waitSeconds = 0
      sender.isFrozen = false
    }
    plan.recordings.forEach(({ framesPerSecond }, index) => {
      ;(recordings[index] as RecordingOutcome).made += framesPerSecond * seconds
    })
  }

  const ceilingOf = ({ send }: Sender, index: number, step: number, loss: number): number => {
    let ceiling = send.ceilingKbps
    for (const { from, to, kbps } of conditions.slow[index] ?? [])
      if (step >= from && step < to) ceiling = Math.min(ceiling, kbps)
    if (loss > 0 && send.transport === 'tcp')
      ceiling = Math.min(
        ceiling,
        tcpCeilingKbps(
          send.roundTripMilliseconds ?? sendingPractice.roundTripMilliseconds,
          100 * loss,
        ),
      )
    return ceiling
  }

  for (let number = 0; number < ticks; number += 1) {
    now = number * tick
    const step = Math.min(conditions.steps - 1, Math.floor(now / stepSeconds + 1e-6))
    const second = Math.floor(step / stepsPerSecond)
    if (calm !== null && step % stepsPerSecond === 0 && calm[second] === 1 && isAtRest()) {
      // Nothing happens in a calm second to senders at rest.
      restFor(1)
      trace?.rest(second, conditions)
      conditions.loads.forEach((load, index) => {
        mostLoad[index] = Math.max(mostLoad[index] as number, load[second] as number)
      })
      number += stepsPerSecond - 1
      continue
    }
    const capacityKbit = (conditions.capacityKbps[step] as number) * tick
    const loss = conditions.lossShare[step] as number

    conditions.loads.forEach((loads, index) => {
      const load = loads[Math.min(second, loads.length - 1)] as number
      mostLoad[index] = Math.max(mostLoad[index] as number, load)
      const before = behind[index] as number
      behind[index] =
        load > 1
          ? Math.min(lateAfterSeconds * 1.01, before + (1 - 1 / load) * tick)
          : Math.max(0, before - (1 / Math.max(load, 0.01) - 1) * tick)
      const name = plan.devices[index]?.name ?? ''
      const isLate = (behind[index] as number) > lateAfterSeconds
      if (isLate && before <= lateAfterSeconds) tell('overloaded', name, 'computer', load)
      if (!isLate && before > lateAfterSeconds) tell('keeps up again', name, null, load)
    })
    const skippedShare = (device: number): number => {
      if (device < 0 || (behind[device] as number) <= lateAfterSeconds) return 0
      const loads = conditions.loads[device] as Float32Array
      return Math.max(0, 1 - 1 / (loads[Math.min(second, loads.length - 1)] as number))
    }

    senders.forEach((sender, index) => {
      const { send } = sender
      sender.lostNow = 0
      makers[index]?.(number, making)
      let { frames, kbit } = making
      sender.made += frames
      const skipped = skippedShare(send.device)
      if (skipped > 0 && frames > 0) {
        const debt = (skipDebt[index] as number) + frames * skipped
        const late = way.isWhole ? Math.min(frames, Math.floor(debt)) : debt
        skipDebt[index] = debt - late
        lose(sender, late, 'computer')
        kbit *= 1 - late / frames
        frames -= late
      }
      const refuses = isIn(conditions.refuses[index] ?? [], step)
      if (refuses && sender.mode !== 'gone' && sender.mode !== 'over')
        breakOff(sender, 'destination', now, tell)
      else if (sender.mode === 'gone' && now >= sender.retryAt)
        tryAgain(sender, !refuses && capacityKbit > 0, now, tell)
      if (frames > 0 || making.isKeyframe)
        offer(sender, frames, kbit * sender.share, making.isKeyframe, tell)
    })

    // UDP does not give way; what it leaves, TCP shares.
    let overUdp = 0
    senders.forEach(({ send, queue, share }, index) => {
      if (send.transport === 'tcp') return
      const wanted =
        send.transport === 'srt'
          ? Math.min(
              queue.kbit / (1 - Math.min(0.9, loss)),
              send.fullKbps * share * sendingPractice.srtOverhead * tick + (queue.kbit > 0 ? 0 : 0),
            )
          : queue.kbit
      demands[index] = Math.min(
        wanted,
        ceilingOf(senders[index] as Sender, index, step, loss) * tick,
      )
      overUdp += demands[index] as number
    })
    const passing = overUdp > capacityKbit ? capacityKbit / overUdp : 1
    senders.forEach((sender, index) => {
      if (sender.send.transport === 'tcp') demands[index] = 0
      else demands[index] = (demands[index] as number) * passing
    })
    const udpDemands = demands.slice()
    senders.forEach((sender, index) => {
      demands[index] =
        sender.send.transport === 'tcp'
          ? Math.min(sender.queue.kbit, ceilingOf(sender, index, step, loss) * tick)
          : 0
    })
    shareOut(demands, order, capacityKbit - overUdp * passing)

    senders.forEach((sender, index) => {
      const { send, queue } = sender
      const isTcp = send.transport === 'tcp'
      const sent = isTcp ? (demands[index] as number) : (udpDemands[index] as number) * (1 - loss)
      if (queue.kbit > 0) {
        const slow = conditions.slow[index] ?? []
        if (sent < queue.kbit - 1e-9)
          sender.cause = isIn(slow, step) && capacityKbit > 0 ? 'destination' : 'line'
        sender.delivered += queue.take(sent)
      }
      if (send.transport === 'udp') lose(sender, queue.clear(), 'line')
      if (sender.mode === 'sending' || sender.mode === 'dropping')
        decide(sender, sent, tick, now, tell)
      else sender.waitSeconds = 0
      if (sender.lostNow > 0 && firstLoss === null) {
        const cause = (['computer', 'destination', 'line'] as const).find(
          (name) => sender.lost[name] > 0,
        )
        firstLoss = { atSeconds: now, cause: cause ?? 'line', who: send.name }
      }
      watch(sender, tick, now)
      if (!paired.has(index)) sender.lostToViewers += sender.lostNow
      trace?.tick(index, second, sender, sent, tick)
    })
    for (const { main, backup } of pairs) {
      const [one, two] = [senders[main] as Sender, senders[backup] as Sender]
      const both = Math.min(one.lostNow, two.lostNow)
      one.lostToViewers += both
      two.lostToViewers += both
    }
    trace?.line(second, conditions, step)

    const isDiskFull = step >= conditions.diskFullAt
    plan.recordings.forEach(({ framesPerSecond, device, name }, index) => {
      const recording = recordings[index] as RecordingOutcome
      const frames = framesPerSecond * tick
      recording.made += frames
      const lost = isDiskFull ? frames : frames * skippedShare(device)
      recording.lost.computer += lost
      if (lost > 0 && firstLoss === null)
        firstLoss = { atSeconds: now, cause: 'computer', who: name }
      if (isDiskFull && !wasDiskFull) tell('disk full', name, 'computer', 0)
    })
    wasDiskFull ||= isDiskFull
  }
  return {
    night,
    seconds: plan.seconds,
    sends: senders.map((sender) => ({
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
      freezes: sender.freezes,
      leastShare: sender.leastShare,
      meanScore: sender.scoreSum / plan.seconds,
    })),
    recordings,
    mostLoad,
    events,
    firstLoss,
  }
}
