import { matchProposals, pairProposals } from '@green-mantle/core/matching'
import { expose } from 'comlink'

const worker = { matchProposals, pairProposals }
export type MatchingWorker = typeof worker
expose(worker)
