/** What waits in a sender's buffer; sizes in kbit. */
export interface Queue {
  kbit: number
  frames: number
  add(kbit: number, frames: number): void
  /** Takes so many kbit from the front; the frames that are whole by then. */
  take(kbit: number): number
  /** Empties it; the frames that were in it. */
  clear(): number
  /** Throws away what came last until no more than so many kbit are left; the frames that were in it. */
  cutTo(kbit: number): number
}

/** Frames as a fluid, for steps in which several are made. */
export function fluidQueue(): Queue {
  return {
    kbit: 0,
    frames: 0,
    add(kbit, frames) {
      this.kbit += kbit
      this.frames += frames
    },
    take(kbit) {
      if (this.kbit <= 0) return 0
      const share = Math.min(1, kbit / this.kbit)
      const frames = share >= 1 ? this.frames : this.frames * share
      this.kbit = share >= 1 ? 0 : this.kbit - kbit
      this.frames -= frames
      return frames
    },
    clear() {
      const { frames } = this
      this.kbit = 0
      this.frames = 0
      return frames
    },
    cutTo(kbit) {
      if (this.kbit <= kbit) return 0
      const frames = this.frames * (1 - kbit / this.kbit)
      this.kbit = kbit
      this.frames -= frames
      return frames
    },
  }
}

/** Whole frames, first in, first out; one that is partly sent is not thrown away. */
export function frameQueue(): Queue {
  // A ring whose length is a power of two, so that places wrap by a mask.
  let sizes = new Float64Array(256)
  let first = 0
  return {
    kbit: 0,
    frames: 0,
    add(kbit, frames) {
      if (frames === 0) return
      if (this.frames === sizes.length) {
        const larger = new Float64Array(sizes.length * 2)
        for (let index = 0; index < this.frames; index += 1)
          larger[index] = sizes[(first + index) & (sizes.length - 1)] as number
        sizes = larger
        first = 0
      }
      sizes[(first + this.frames) & (sizes.length - 1)] = kbit
      this.frames += 1
      this.kbit += kbit
    },
    take(kbit) {
      let left = kbit
      let whole = 0
      while (this.frames > 0) {
        const size = sizes[first] as number
        if (size > left + 1e-9) {
          sizes[first] = size - left
          this.kbit -= left
          return whole
        }
        left -= size
        this.kbit -= size
        first = (first + 1) & (sizes.length - 1)
        this.frames -= 1
        whole += 1
      }
      this.kbit = 0
      return whole
    },
    clear() {
      const { frames } = this
      this.kbit = 0
      this.frames = 0
      return frames
    },
    cutTo(kbit) {
      let cut = 0
      while (this.frames > 1 && this.kbit > kbit) {
        this.kbit -= sizes[(first + this.frames - 1) & (sizes.length - 1)] as number
        this.frames -= 1
        cut += 1
      }
      return cut
    },
  }
}
