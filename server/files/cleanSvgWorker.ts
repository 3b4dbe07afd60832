import { parentPort, workerData } from 'node:worker_threads'
import { cleanSvg } from '@green-mantle/core/svg'

/** Cleans one SVG in a thread of its own, so that none can hold up the server. */
parentPort?.postMessage(cleanSvg(workerData as string))
