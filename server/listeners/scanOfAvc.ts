/** Bits of a byte string, the highest first; zeros behind its end. */
function bitsOf(bytes: Uint8Array) {
  let at = 0
  const bit = (): number => {
    const value = ((bytes[at >> 3] ?? 0) >> (7 - (at & 7))) & 1
    at += 1
    return value
  }
  const bits = (count: number): number => {
    let value = 0
    for (let index = 0; index < count; index += 1) value = value * 2 + bit()
    return value
  }
  /** ue(v) of ITU-T H.264, 9.1. */
  const exponential = (): number => {
    let zeros = 0
    while (zeros < 32 && bit() === 0) zeros += 1
    return 2 ** zeros - 1 + bits(zeros)
  }
  /** se(v), 9.1.1. */
  const signed = (): number => {
    const code = exponential()
    return code % 2 === 0 ? -code / 2 : (code + 1) / 2
  }
  return { bit, bits, exponential, signed, isPastEnd: () => at > bytes.length * 8 }
}

/** Profiles whose sets tell of chroma and depth (7.3.2.1.1). */
const highProfiles = new Set([44, 83, 86, 100, 110, 118, 122, 128, 134, 135, 138, 139, 244])
const maxCycle = 255

function skipScalingList({ signed }: ReturnType<typeof bitsOf>, size: number): void {
  let [last, next] = [8, 8]
  for (let index = 0; index < size && next !== 0; index += 1) {
    next = (last + signed() + 256) % 256
    if (next !== 0) last = next
  }
}

/** What bytes in place of a start code were put in is taken out (7.4.1). */
const withoutEmulation = (unit: Uint8Array): Uint8Array =>
  unit.filter(
    (byte, index) => !(byte === 3 && index >= 2 && unit[index - 1] === 0 && unit[index - 2] === 0),
  )

/**
 * Whether a sequence parameter set allows fields in place of frames: frame_mbs_only_flag of ITU-T H.264,
 * 7.3.2.1.1, is 0. null where the set ends before it.
 */
export function allowsFields(set: Uint8Array): boolean | null {
  const reader = bitsOf(withoutEmulation(set))
  const { bit, bits, exponential, signed } = reader
  bits(8)
  const profile = bits(8)
  bits(16)
  exponential()
  if (highProfiles.has(profile)) {
    const chroma = exponential()
    if (chroma === 3) bit()
    exponential()
    exponential()
    bit()
    if (bit() === 1)
      for (let list = 0; list < (chroma === 3 ? 12 : 8); list += 1)
        if (bit() === 1) skipScalingList(reader, list < 6 ? 16 : 64)
  }
  exponential()
  const orderKind = exponential()
  if (orderKind === 0) exponential()
  else if (orderKind === 1) {
    bit()
    signed()
    signed()
    const cycle = Math.min(maxCycle, exponential())
    for (let index = 0; index < cycle; index += 1) signed()
  }
  exponential()
  bit()
  exponential()
  exponential()
  const isFramesOnly = bit() === 1
  return reader.isPastEnd() ? null : !isFramesOnly
}
