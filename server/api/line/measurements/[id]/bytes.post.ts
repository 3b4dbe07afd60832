import { setTimeout as pause } from 'node:timers/promises'
import { transferLimits } from '@green-mantle/core/network'
import { apiHandler } from '../../../../http/apiHandler'
import { measurementOf, measurementOver } from '../../../../http/measurementRequests'
import { findMeasurement } from '../../../../line/measurements'
import { ProblemError } from '../../../../http/problem'

/** Takes bytes, as fast as the line lets them through, and forgets them. */
export default apiHandler(async (event) => {
  const { id, pacer } = measurementOf(event)
  const connection = pacer?.open()
  let bytes = 0
  try {
    for await (const chunk of event.node.req as AsyncIterable<Buffer>) {
      bytes += chunk.length
      if (bytes > transferLimits.mostBytes)
        throw new ProblemError({
          status: 413,
          title: 'A transfer is not that large',
          detail: `At most ${transferLimits.mostBytes} bytes are taken at once.`,
        })
      await connection?.pass(chunk.length)
      // Ended by its owner, or its time is up: what is still sent is for nobody.
      if (!findMeasurement(id)) throw measurementOver()
    }
  } finally {
    connection?.close()
  }
  // The last byte's acknowledgement takes a round trip as well.
  if (pacer) await pause(pacer.roundTripMilliseconds())
  return { bytes }
})
