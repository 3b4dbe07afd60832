import { sendingPractice } from './mediumTable'
import type { Sender } from './sender'
import { shareOut } from './sharing'
import type { StepState } from './stepState'

/** How one tick's share of the line is found, without making anything anew. */
export interface Passing {
  /** By send, kbit that arrive in this tick. */
  sentKbit: Float64Array
  pass(senders: readonly Sender[], state: StepState, tickSeconds: number): void
}

/** UDP takes its rate and loses what does not pass; TCP shares what is left, each under its ceiling. */
export function newPassing(count: number): Passing {
  const sentKbit = new Float64Array(count)
  const tcp = new Float64Array(count)
  const order = Uint16Array.from({ length: count }, (_, index) => index)
  return {
    sentKbit,
    pass(senders, { capacityKbps, lossShare, ceilingKbps }, tickSeconds) {
      const capacityKbit = capacityKbps * tickSeconds
      let overUdp = 0
      let overTcp = 0
      for (let index = 0; index < count; index += 1) {
        const { send, queue, share } = senders[index] as Sender
        const most = (ceilingKbps[index] as number) * tickSeconds
        if (send.transport === 'tcp') {
          const wanted = queue.kbit < most ? queue.kbit : most
          tcp[index] = wanted
          overTcp += wanted
          sentKbit[index] = 0
          continue
        }
        tcp[index] = 0
        const again =
          send.transport === 'srt'
            ? Math.min(
                queue.kbit / (1 - Math.min(0.9, lossShare)),
                send.fullKbps * share * sendingPractice.srtOverhead * tickSeconds,
              )
            : queue.kbit
        const wanted = Math.min(again, most)
        sentKbit[index] = wanted
        overUdp += wanted
      }
      const passing = overUdp > capacityKbit ? capacityKbit / overUdp : 1
      const left = capacityKbit - overUdp * passing
      // Where everything passes nobody has to share.
      if (overTcp > left) shareOut(tcp, order, left)
      for (let index = 0; index < count; index += 1) {
        const isTcp = (senders[index] as Sender).send.transport === 'tcp'
        sentKbit[index] = isTcp
          ? (tcp[index] as number)
          : (sentKbit[index] as number) * passing * (1 - lossShare)
      }
    },
  }
}
