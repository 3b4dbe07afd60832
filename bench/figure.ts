/** One line of the benchmark: `area.name value unit`. */
export interface Figure {
  name: string
  value: number
  unit: string
}

export type Area = () => Promise<Figure[]>

const significant = new Intl.NumberFormat('en-GB', {
  maximumSignificantDigits: 4,
  useGrouping: false,
})

export function printFigures(area: string, figures: readonly Figure[]): void {
  for (const { name, value, unit } of figures)
    console.log(`${area}.${name} ${significant.format(value)} ${unit}`)
}
