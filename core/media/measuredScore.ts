/**
 * Structural similarity to the original, and the score that it stands for. The steps are those between
 * the five grades of the mean opinion score after Zinner, Hohlfeld, Abboud and Hossfeld (2010, "Impact of
 * frame rate and resolution on objective QoE metrics"; from memory): 0.99 excellent, 0.95 good, 0.88 fair,
 * 0.5 poor. They are set to where our own words begin: clean, good, soft, rough.
 */
export const scoresBySsim = [
  { ssim: 0, score: 0 },
  { ssim: 0.5, score: 50 },
  { ssim: 0.88, score: 65 },
  { ssim: 0.95, score: 80 },
  { ssim: 0.99, score: 90 },
  { ssim: 1, score: 100 },
] as const

/** The score, 0 to 100, of a picture that is this similar (SSIM, 0 to 1) to its original; straight between the steps. */
export function scoreFromSsim(ssim: number): number {
  const at = Math.min(1, Math.max(0, ssim))
  const above = scoresBySsim.findIndex((step) => step.ssim >= at)
  const upper = scoresBySsim[above]
  const lower = scoresBySsim[above - 1]
  if (!upper || !lower) return 0
  const share = (at - lower.ssim) / (upper.ssim - lower.ssim)
  return lower.score + share * (upper.score - lower.score)
}
