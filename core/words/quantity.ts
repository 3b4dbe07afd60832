import jsep, { type Expression } from 'jsep'

/** How many of the base unit one of each unit is; names are matched without regard to case. */
export type Units = Readonly<Record<string, number>>

/** Rates, with kb/s as the base. */
export const rateUnits = {
  'kb/s': 1,
  'kbit/s': 1,
  kbps: 1,
  k: 1,
  'mb/s': 1000,
  'mbit/s': 1000,
  mbps: 1000,
  m: 1000,
  'bit/s': 0.001,
  'b/s': 0.001,
} as const satisfies Units
/** Rates, with Mb/s as the base. */
export const megabitUnits = {
  'mb/s': 1,
  'mbit/s': 1,
  mbps: 1,
  m: 1,
  'kb/s': 0.001,
  'kbit/s': 0.001,
  kbps: 0.001,
  k: 0.001,
} as const satisfies Units
export const pixelUnits = { px: 1 } as const satisfies Units
export const degreeUnits = { '°': 1, deg: 1 } as const satisfies Units
export const percentUnits = { '%': 1 } as const satisfies Units
/** Per cent of a length, where the length's own unit is the base. */
export const shareUnits = (length: number): Units => ({ '%': length / 100 })
export const secondUnits = { s: 1, ms: 0.001 } as const satisfies Units
export const millisecondUnits = { ms: 1, s: 1000 } as const satisfies Units
export const hourUnits = { h: 1, min: 1 / 60 } as const satisfies Units
export const byteUnits = { mb: 1e6, kb: 1000 } as const satisfies Units
export const decibelUnits = { db: 1 } as const satisfies Units
export const framesPerSecondUnits = { fps: 1 } as const satisfies Units

export type QuantityResult = { ok: true; value: number } | { ok: false; message: string }

const longestQuantity = 200

/** Evaluates the four sums, signs and brackets; anything else a person cannot have meant. */
function evaluate(node: Expression): number {
  if (node.type === 'Literal' && typeof node.value === 'number') return node.value
  if (node.type === 'UnaryExpression') {
    const value = evaluate(node.argument as Expression)
    if (node.operator === '-') return -value
    if (node.operator === '+') return value
  }
  if (node.type === 'BinaryExpression') {
    const left = evaluate(node.left as Expression)
    const right = evaluate(node.right as Expression)
    if (node.operator === '+') return left + right
    if (node.operator === '-') return left - right
    if (node.operator === '*') return left * right
    if (node.operator === '/') return left / right
  }
  throw new SyntaxError('not a sum')
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&')

/** Puts the factor in place of each unit that follows a number or a bracket: "4.5 Mb/s" → "4.5*1000". */
function replaceUnits(text: string, units: Units): string {
  const names = Object.keys(units).sort((a, b) => b.length - a.length)
  if (names.length === 0) return text
  const pattern = new RegExp(`(?<=[\\d.)]\\s*)(${names.map(escaped).join('|')})(?![a-z])`, 'gi')
  return text.replace(pattern, (name) => `*${units[name.toLowerCase()]}`)
}

/**
 * Reads what a person types into a field: a number, a sum, units ("4.5 Mb/s", "6000*0.8", "1,920/2").
 * A comma between groups of three digits is a separator; a single one elsewhere is a decimal comma.
 */
export function readQuantity(text: string, units: Units = {}): QuantityResult {
  const trimmed = text.trim()
  const unitList = Object.keys(units)[0]
  const message = `"${trimmed.slice(0, 40)}" is not a number or a sum${unitList ? ` (${unitList})` : ''}`
  if (trimmed === '' || trimmed.length > longestQuantity) return { ok: false, message }
  const numbers = trimmed
    .replace(/(?<=\d),(?=\d{3}(?!\d))/g, '')
    .replace(/(?<=\d),(?=\d)/g, '.')
    .replaceAll('×', '*')
    .replaceAll('−', '-')
  try {
    const value = evaluate(jsep(replaceUnits(numbers, units)))
    return Number.isFinite(value) ? { ok: true, value } : { ok: false, message }
  } catch {
    return { ok: false, message }
  }
}
