import type { Crossing, ScoreCurve } from '@green-mantle/core/media'
import { kbpsInWords, renditionInWords } from '@green-mantle/core/words'
import type { useChartTheme } from '~/composables/chartTheme'
import type { FitRow } from './rows'

/** Bitrates over which is drawn, in kb/s. */
export const drawnRange = { fromKbps: 500, toKbps: 12_000 }
const labelledKbps = [500, 1000, 2000, 4000, 8000, 12_000]

type Theme = ReturnType<typeof useChartTheme>
type Point = ScoreCurve['points'][number]

export interface BitsBuy {
  row: FitRow
  curves: readonly ScoreCurve[]
  /** Encodes of one's own picture that the curves are read from. */
  measured: readonly Point[]
  crossings: readonly Crossing[]
  nextStep: Point | null
  colours: Theme['colours']['value']
  text: Theme['text']
  number: Theme['number']
}

const at = ({ videoBitrateKbps, score }: Point): [number, number] => [videoBitrateKbps, score]

/** Whether the words beside a point would reach over the axis, in the first third of the scale. */
const isNearAxis = (kbps: number): boolean =>
  Math.log(kbps / drawnRange.fromKbps) < Math.log(drawnRange.toKbps / drawnRange.fromKbps) * 0.4

/** The chart of what the bits buy, as the chart library takes it. */
export function bitsBuyOption(drawn: BitsBuy) {
  const { row, curves, measured, crossings, nextStep, colours, text, number } = drawn
  const { score } = row
  const sizeColours = [
    row.canvas === 'landscape' ? colours.river : colours.foxglove,
    colours.moss,
    colours.ochre,
  ]
  const colourOf = ({ variant }: ScoreCurve): string =>
    sizeColours[row.sizes.findIndex(({ width }) => width === variant.width)] ?? colours['ink-2']
  return {
    animation: false,
    grid: { left: 40, right: 18, top: 48, bottom: 40 },
    legend: {
      top: 0,
      itemWidth: 28,
      // The line alone: no curve has a mark of its own.
      itemStyle: { opacity: 0 },
      data: curves.map(({ variant }) => renditionInWords(variant)),
      textStyle: { ...text, color: colours['ink-2'] },
    },
    tooltip: {
      trigger: 'axis',
      order: 'valueDesc',
      valueFormatter: (value: number) => value.toFixed(0),
    },
    xAxis: {
      type: 'log',
      min: drawnRange.fromKbps,
      max: drawnRange.toKbps,
      name: 'video, kb/s',
      nameLocation: 'middle',
      nameGap: 24,
      nameTextStyle: { ...text, color: colours['ink-2'] },
      axisLabel: { ...number, color: colours['ink-2'], customValues: labelledKbps },
      axisTick: { customValues: labelledKbps },
      splitLine: { show: false },
      axisLine: { lineStyle: { color: colours.rule } },
    },
    yAxis: {
      type: 'value',
      min: 20,
      max: 100,
      axisLabel: { ...number, color: colours['ink-2'] },
      splitLine: { lineStyle: { color: colours.rule } },
    },
    series: [
      ...curves.map((curve) => ({
        type: 'line',
        name: renditionInWords(curve.variant),
        showSymbol: false,
        lineStyle: {
          width: curve.variant.width === row.rendition.width ? 3 : 2,
          type: curve.variant.framesPerSecond === 60 ? 'solid' : 'dashed',
        },
        color: colourOf(curve),
        data: curve.points.map((point) => [Math.round(point.videoBitrateKbps), point.score]),
      })),
      {
        type: 'scatter',
        name: 'this send',
        symbolSize: 13,
        z: 5,
        color: colours.ink,
        data: [[row.rendition.videoBitrateKbps, score]],
        markLine: {
          silent: true,
          symbol: 'none',
          label: { show: false },
          lineStyle: { color: colours.ink, type: 'dotted' },
          data: [{ xAxis: row.rendition.videoBitrateKbps }],
        },
        label: {
          ...text,
          show: true,
          // Away from the axes: at low bitrates to its right, and at low scores above it.
          position: isNearAxis(row.rendition.videoBitrateKbps) ? 'right' : 'left',
          offset: [0, score < 30 ? -12 : 0],
          fontWeight: 700,
          color: colours.ink,
          // Else the curves run through it.
          backgroundColor: colours.sheet,
          padding: [1, 4],
          formatter: `${kbpsInWords(row.rendition.videoBitrateKbps)} → ${Math.round(score)}`,
        },
        markArea: {
          silent: true,
          itemStyle: { color: colours.rule, opacity: 0.5 },
          label: { ...text, color: colours['ink-2'], position: 'insideBottom' },
          data: [
            [
              { name: 'past its limit', xAxis: row.rules.mostVideoBitrateKbps },
              { xAxis: drawnRange.toKbps },
            ],
          ],
        },
      },
      {
        type: 'scatter',
        name: 'measured',
        symbolSize: 6,
        z: 4,
        color: colours.ink,
        data: measured.map(at),
        tooltip: { show: false },
      },
      {
        type: 'scatter',
        name: 'crossings',
        symbol: 'diamond',
        symbolSize: 10,
        z: 4,
        color: colours['ink-2'],
        data: crossings.map(at),
        tooltip: { show: false },
      },
      {
        type: 'scatter',
        name: 'next step up',
        symbolSize: 13,
        itemStyle: { color: colours.sheet, borderColor: colours.ink, borderWidth: 2 },
        data: nextStep ? [at(nextStep)] : [],
      },
    ],
  }
}
