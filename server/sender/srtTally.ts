/**
 * What both sides of an SRT connection say of each other, read from their datagrams on the way: data, its
 * acknowledgements and what is reported missing (the Internet-Draft "The SRT Protocol", sections 3.1, 3.2.1,
 * 3.2.4 and 3.2.5; from memory, held against the library that FFmpeg brings by a test). Payloads may be encrypted;
 * headers are not.
 */
export interface SrtSeen {
  /** Of the data that has come or will not any more: the share that came, by bytes; 0 to 1. */
  arrivedShare: number
  /** The share of moments, as frames are handed over, of which something is missing for good; 0 to 1. */
  lostShare: number
  resentPackets: number
  roundTripMilliseconds: number | null
}

interface Sent {
  bytes: number
  /** The moment it was handed over in, counted. */
  moment: number
  sentAtMilliseconds: number
  wasMissing: boolean
}

const at = { sequence: 0, flags: 4, timestamp: 8, body: 16, roundTrip: 20 } as const
const control = { handshake: 0x8000, acknowledged: 0x8002, missing: 0x8003 } as const
const handshake = { type: 36, conclusion: 0xff_ff_ff_ff, extensions: 64, agreed: 2 } as const
/** What the library takes where neither side asks for more. */
const usualLatencyMilliseconds = 120
/** The other side acknowledges this often, so that what it gave up is known so much later, or earlier by its clock. */
const acknowledgingMilliseconds = 10
const resentFlag = 0x04
const sequenceMask = 0x7f_ff_ff_ff
const rangeFlag = 0x80_00_00_00
/** Packets of one frame are handed over within this. */
const momentMicroseconds = 2000
/** More than this is no step but another connection. */
const mostAhead = 100_000

const next = (sequence: number): number => (sequence + 1) & sequenceMask
const ahead = (from: number, to: number): number => (to - from) & sequenceMask

export class SrtTally {
  private readonly sent = new Map<number, Sent>()
  private acknowledged: number | null = null
  private lastTimestamp = 0
  private moments = 0
  private packets = 0
  private readonly momentsLost = new Set<number>()
  /** Never sent: the program gave up on them before, so that their moments are not known. */
  private neverSent = 0
  private arrivedBytes = 0
  private lostBytes = 0
  private resentPackets = 0
  private roundTripMilliseconds: number | null = null
  private latencyMilliseconds = usualLatencyMilliseconds

  /** `now`: milliseconds by a clock that nobody sets. */
  constructor(private readonly now: () => number = () => performance.now()) {}

  /** A datagram on its way to the other side. */
  there(datagram: Buffer): void {
    if (datagram.length < at.body || ((datagram[0] ?? 0) & 0x80) !== 0) return
    const sequence = datagram.readUInt32BE(at.sequence)
    if (((datagram[at.flags] ?? 0) & resentFlag) !== 0) {
      this.resentPackets += 1
      return
    }
    const timestamp = datagram.readUInt32BE(at.timestamp)
    if (this.moments === 0 || Math.abs(timestamp - this.lastTimestamp) > momentMicroseconds)
      this.moments += 1
    this.lastTimestamp = timestamp
    this.acknowledged ??= sequence
    this.packets += 1
    this.sent.set(sequence, {
      ...{ bytes: datagram.length, moment: this.moments },
      ...{ sentAtMilliseconds: this.now(), wasMissing: false },
    })
  }

  /** A datagram on its way back. */
  back(datagram: Buffer): void {
    if (datagram.length < at.body + 4) return
    const kind = datagram.readUInt16BE(0)
    if (kind === control.acknowledged) {
      if (datagram.length >= at.roundTrip + 4)
        this.roundTripMilliseconds = datagram.readUInt32BE(at.roundTrip) / 1000
      this.settleUpTo(datagram.readUInt32BE(at.body) & sequenceMask)
    } else if (kind === control.missing)
      for (const sequence of missingIn(datagram)) {
        const known = this.sent.get(sequence)
        if (known) known.wasMissing = true
      }
    else if (kind === control.handshake)
      this.latencyMilliseconds = agreedLatency(datagram) ?? this.latencyMilliseconds
  }

  /**
   * Whatever lies before what is acknowledged has come, or will not any more: what was reported missing and
   * is as old as the latency was given up, since the other side waits that long and no longer.
   */
  private settleUpTo(sequence: number): void {
    if (this.acknowledged === null || ahead(this.acknowledged, sequence) > mostAhead) return
    for (; this.acknowledged !== sequence; this.acknowledged = next(this.acknowledged)) {
      const known = this.sent.get(this.acknowledged)
      this.sent.delete(this.acknowledged)
      if (!known) this.neverSent += 1
      else if (known.wasMissing && this.isGivenUp(known)) {
        this.momentsLost.add(known.moment)
        this.lostBytes += known.bytes
      } else this.arrivedBytes += known.bytes
    }
  }

  private isGivenUp({ sentAtMilliseconds }: Sent): boolean {
    const age = this.now() - sentAtMilliseconds
    return age >= this.latencyMilliseconds - acknowledgingMilliseconds
  }

  seen(): SrtSeen {
    const perMoment = Math.max(1, this.packets / Math.max(1, this.moments))
    const lost = this.momentsLost.size + this.neverSent / perMoment
    const all = this.moments + this.neverSent / perMoment
    const settledBytes = this.arrivedBytes + this.lostBytes
    const settledPackets = Math.max(1, this.packets - this.sent.size)
    // What was never sent was as large as the rest.
    const missingBytes = this.lostBytes + (this.neverSent * settledBytes) / settledPackets
    return {
      arrivedShare: settledBytes === 0 ? 1 : this.arrivedBytes / (this.arrivedBytes + missingBytes),
      lostShare: all === 0 ? 0 : Math.min(1, lost / all),
      resentPackets: this.resentPackets,
      roundTripMilliseconds: this.roundTripMilliseconds,
    }
  }
}

/** How long the two sides agreed to wait for what is missing, as the answer to a call says; null in what is none. */
function agreedLatency(datagram: Buffer): number | null {
  if (datagram.length < handshake.extensions + 4) return null
  if (datagram.readUInt32BE(handshake.type) !== handshake.conclusion) return null
  for (let place: number = handshake.extensions; place + 16 <= datagram.length;) {
    // Version and flags stand before the latencies of both ways.
    if (datagram.readUInt16BE(place) === handshake.agreed)
      return Math.max(datagram.readUInt16BE(place + 12), datagram.readUInt16BE(place + 14))
    place += 4 + 4 * datagram.readUInt16BE(place + 2)
  }
  return null
}

/** The sequence numbers that a report of missing data names, alone or as a range. */
function missingIn(datagram: Buffer): number[] {
  const missing: number[] = []
  for (let place: number = at.body; place + 4 <= datagram.length; place += 4) {
    const word = datagram.readUInt32BE(place)
    if ((word & rangeFlag) === 0 || place + 8 > datagram.length) {
      missing.push(word & sequenceMask)
      continue
    }
    place += 4
    const [first, last] = [word & sequenceMask, datagram.readUInt32BE(place) & sequenceMask]
    const count = Math.min(mostAhead, ahead(first, last) + 1)
    for (let step = 0; step < count; step += 1) missing.push((first + step) & sequenceMask)
  }
  return missing
}
