import type { MeasuredPoint } from '@green-mantle/core/show'
import { ask } from './encoderProgram'
import { ownInput } from '../programs/fileInput'

/** What FFmpeg's filters `ssim`, `psnr` and `vif` say of luma at their end. Throws where one said nothing. */
export function readMeasures(said: string): Pick<MeasuredPoint, 'ssim' | 'vif' | 'psnrDecibels'> {
  const ssim = readSsim(said)
  const psnr = /PSNR y:([\d.]+|inf)/.exec(said)?.[1]
  const vif = /VIF scale=0 average:([\d.]+)/.exec(said)?.[1]
  if (ssim === null || psnr === undefined || vif === undefined)
    throw new Error('The encoder program did not say how alike the pictures are.')
  return {
    ssim,
    vif: Number(vif),
    psnrDecibels: psnr === 'inf' ? null : Number(psnr),
  }
}

/** What the filter `ssim` says of luma at its end, 0 to 1; null where it said nothing. */
export function readSsim(said: string): number | null {
  const ssim = /SSIM Y:([\d.]+)/.exec(said)?.[1]
  return ssim === undefined ? null : Math.min(1, Number(ssim))
}

/** kb/s of the frames alone of an encode in a file. */
export async function frameBitrateKbps(
  path: string,
  framesPerSecond: number,
  signal: AbortSignal,
): Promise<number> {
  const { output } = await ask(
    'ffprobe',
    [
      ...['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'packet=size'],
      ...['-of', 'csv=p=0', ...ownInput(path)],
    ],
    { signal },
  )
  const sizes = output
    .split(/[\s,]+/)
    .filter(Boolean)
    .map(Number)
  const bytes = sizes.reduce((sum, size) => sum + size, 0)
  return (bytes * 8 * framesPerSecond) / 1000 / Math.max(1, sizes.length)
}
