import { matchProposals } from '@green-mantle/core/matching'
import { expose } from 'comlink'

const worker = { matchProposals }
export type MatchingWorker = typeof worker
expose(worker)
