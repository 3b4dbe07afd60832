import { readHelpPage } from '@green-mantle/core/destinations'
import {
  readDressingFile,
  readMeasurements,
  readProfileFile,
  readShowFile,
} from '@green-mantle/core/formats'
import { type Computer, computerSchema, showSchema } from '@green-mantle/core/show'
import { readCanvasSvg } from '@green-mantle/core/svg'
import { expose } from 'comlink'

/** Whether a value is a whole show. */
const isShow = (value: unknown): boolean => showSchema.safeParse(value).success

/** A computer out of what a browser kept; null where that is none. */
function readComputer(text: string): Computer | null {
  try {
    return computerSchema.parse(JSON.parse(text))
  } catch {
    return null
  }
}

// What checks data against the schemas runs here, so that no page has to carry them.
const worker = {
  isShow,
  readComputer,
  readCanvasSvg,
  readDressingFile,
  readHelpPage,
  readMeasurements,
  readProfileFile,
  readShowFile,
}
export type ReadingWorker = typeof worker
expose(worker)
