import { isPart, type Part } from './parts'

/** In version 6 no computer was measured. */
export function fromVersion6(show: Part): Part {
  return {
    ...show,
    computer: isPart(show.computer) ? { measured: null, ...show.computer } : show.computer,
  }
}
