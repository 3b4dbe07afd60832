import type { ArrivalReport } from './report'

/** One send of a show that is listened to, as the page is told of it. */
export interface ListenedSend {
  /** As an encode's output has it. */
  key: string
  /** null where nothing here can listen to what the send is made for, with the reason in `note`. */
  address: string | null
  /** The made-up key, to be pasted as a real one is, over SRT as the stream ID; empty where there is no listener. */
  streamKey: string
  note: string
  isArriving: boolean
  report: ArrivalReport | null
  /** Bytes of the connection, the protocol's own included; null where they are not counted. */
  wireBytes: number | null
  /** Why the last send ended, and whom else it refused; in words. */
  said: string[]
}

/** For how long listeners may be opened to the local network, in minutes. */
export const openMinutesChoices = [15, 60, 240] as const
export type OpenMinutes = (typeof openMinutesChoices)[number]

/** What the listeners of a show have heard. */
export interface Listening {
  sends: ListenedSend[]
  /** Where other computers of the local network reach the listeners, and until when; null where they are not open to it. */
  network: { hosts: string[]; until: string } | null
  /** What was tried with keys that belong to no send, in words. */
  strangers: string[]
}
