import { deviceUses, loadOn } from '../fit'
import type { Show } from '../show'
import type { CanvasEncodes } from './outputs'

/**
 * What the plan's loads on the processor come to for the encodes of one canvas, 1 = all of it; null where
 * something of it is on no known device, or on another than the processor.
 */
export function plannedShareOf(
  show: Show,
  { encodes }: Pick<CanvasEncodes, 'encodes'>,
): number | null {
  const processors = deviceUses(show).filter(({ device }) => device.kind === 'processor')
  const loads = encodes.map(({ encode }) => {
    const use = processors.find(({ device }) => device.id === encode.deviceId)
    return use ? loadOn(use.device, encode.rendition) : null
  })
  return loads.some((load) => load === null)
    ? null
    : loads.reduce<number>((sum, load) => sum + (load ?? 0), 0)
}
