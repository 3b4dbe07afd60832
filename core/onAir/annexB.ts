/** NAL unit types of H.264 (ITU-T H.264, table 7-1). */
const unitTypes = { sequenceSet: 7, pictureSet: 8 } as const
const typeOf = (unit: Uint8Array): number => (unit[0] as number) & 0x1f

/** The NAL units of a byte stream with start codes (ITU-T H.264, Annex B). */
export function unitsOf(stream: Uint8Array): Uint8Array[] {
  const units: Uint8Array[] = []
  let begin = -1
  const close = (end: number): void => {
    let last = end
    // Zeros behind a unit belong to the next start code.
    while (last > begin && stream[last - 1] === 0) last -= 1
    if (begin >= 0 && last > begin) units.push(stream.subarray(begin, last))
  }
  for (let at = 0; at + 2 < stream.length; at += 1) {
    if (stream[at] !== 0 || stream[at + 1] !== 0 || stream[at + 2] !== 1) continue
    close(at)
    begin = at + 3
    at += 2
  }
  close(stream.length)
  return units
}

/** The same units, each behind its length in four bytes, as files hold them (ISO/IEC 14496-15). */
export function lengthPrefixed(units: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(units.reduce((sum, unit) => sum + 4 + unit.length, 0))
  const view = new DataView(whole.buffer)
  let at = 0
  for (const unit of units) {
    view.setUint32(at, unit.length)
    whole.set(unit, at + 4)
    at += 4 + unit.length
  }
  return whole
}

/** The decoder configuration record of a keyframe's units (ISO/IEC 14496-15, 5.3.3.1); null where its parameter sets are not among them. */
export function configurationRecord(units: readonly Uint8Array[]): Uint8Array | null {
  const sequence = units.find((unit) => typeOf(unit) === unitTypes.sequenceSet)
  const picture = units.find((unit) => typeOf(unit) === unitTypes.pictureSet)
  if (!sequence || !picture || sequence.length < 4) return null
  const sized = (unit: Uint8Array): number[] => [unit.length >> 8, unit.length & 0xff, ...unit]
  return Uint8Array.from([
    ...[1, sequence[1] as number, sequence[2] as number, sequence[3] as number],
    // Lengths of four bytes, one set of each kind.
    ...[0xff, 0xe1, ...sized(sequence), 1, ...sized(picture)],
  ])
}
