import { eachPart, isPart, type Part } from './parts'

/**
 * Version 4 took every plan for the only best one, and any codec that is accepted. Where a show
 * planned by itself, its cells are those of its last plan; what it lacked else is frozen here.
 */
export function fromVersion4(show: Part): Part {
  const planned = isPart(show.fit) && show.fit.automatic === true
  const withPlan = (more: Part) => (part: Part) =>
    isPart(part.plan) ? { ...part, plan: { ...more, ...part.plan } } : part
  return {
    ...show,
    destinations: eachPart(show.destinations, withPlan({ planned, newerCodecs: null })),
    recordings: eachPart(show.recordings, withPlan({ planned })),
    fit: isPart(show.fit)
      ? { marginPoints: 0.5, shapeMarginPoints: 2, newerCodecs: false, ...show.fit }
      : show.fit,
  }
}
