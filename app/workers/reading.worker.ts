import {
  readDressingFile,
  readMeasurements,
  readProfileFile,
  readShowFile,
} from '@green-mantle/core/formats'
import { showSchema } from '@green-mantle/core/show'
import { readCanvasSvg } from '@green-mantle/core/svg'
import { expose } from 'comlink'

/** Whether a value is a whole show. */
const isShow = (value: unknown): boolean => showSchema.safeParse(value).success

// What checks data against the schemas runs here, so that no page has to carry them.
const worker = {
  isShow,
  readCanvasSvg,
  readDressingFile,
  readMeasurements,
  readProfileFile,
  readShowFile,
}
export type ReadingWorker = typeof worker
expose(worker)
