import type { DatagramFront } from './datagramFront'
import type { StreamReader } from './streamReader'

type Crossed = ReturnType<DatagramFront['crossed']>

/** Listens for one send whose packets come in as datagrams, and again after each that ended. */
export interface DatagramListener
  extends
    Pick<DatagramFront, 'crossed' | 'openAt' | 'closeElsewhere'>,
    Pick<StreamReader, 'arrival' | 'isArriving' | 'stretch' | 'forget' | 'hangUp'> {
  /** At which datagrams come in. */
  readonly port: number
  stop(): Promise<void>
}

/** What has crossed since `before`. */
export const crossedSince = (before: Crossed, now: Crossed): Crossed => ({
  wireBytes: now.wireBytes - before.wireBytes,
  datagrams: now.datagrams - before.datagrams,
  lostDatagrams: now.lostDatagrams - before.lostDatagrams,
})
