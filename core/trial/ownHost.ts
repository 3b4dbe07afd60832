import { addressProblem } from '../show'

/** The protocol that an address of a host of one's own names. */
export const ownHostProtocol = (address: string): 'rtmp' | 'rtmps' =>
  /^rtmps:/i.test(address.trim()) ? 'rtmps' : 'rtmp'

/** What is wrong with the address of a host of one's own, in words; null where nothing is. */
export const ownHostProblem = (address: string): string | null =>
  address.trim() === ''
    ? 'your own host has no address yet'
    : addressProblem(address, ownHostProtocol(address))
