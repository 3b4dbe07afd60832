import type { MeasuredPoint } from '@green-mantle/core/show'

/** What FFmpeg's filters `ssim`, `psnr` and `vif` say of luma at their end. Throws where one said nothing. */
export function readMeasures(said: string): Pick<MeasuredPoint, 'ssim' | 'vif' | 'psnrDecibels'> {
  const ssim = /SSIM Y:([\d.]+)/.exec(said)?.[1]
  const psnr = /PSNR y:([\d.]+|inf)/.exec(said)?.[1]
  const vif = /VIF scale=0 average:([\d.]+)/.exec(said)?.[1]
  if (ssim === undefined || psnr === undefined || vif === undefined)
    throw new Error('The encoder program did not say how alike the pictures are.')
  return {
    ssim: Math.min(1, Number(ssim)),
    vif: Number(vif),
    psnrDecibels: psnr === 'inf' ? null : Number(psnr),
  }
}
