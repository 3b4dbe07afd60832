<script setup lang="ts">
import { pictureOf } from '@green-mantle/core/show'
import { acceptedFrameRates } from '@green-mantle/core/fit'
import {
  crossingKbps,
  type CurveVariant,
  logarithmicBitrates,
  measuredOnCurve,
  pictureScore,
  scoreCurves,
} from '@green-mantle/core/media'
import { nextStepInWords } from '@green-mantle/core/plan'
import { kbpsInWords, renditionInWords } from '@green-mantle/core/words'
import { LineChart, ScatterChart } from 'echarts/charts'
import {
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed } from 'vue'
import VChart from 'vue-echarts'
import { useChartTheme } from '~/composables/chartTheme'
import { useShowStore } from '~/stores/show'
import { useNextStep } from './nextStep'
import type { FitRow } from './rows'

use([
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  SVGRenderer,
])

const props = defineProps<{ row: FitRow }>()
const store = useShowStore()
const { colours, text, number } = useChartTheme()

const labelledKbps = [500, 1000, 2000, 4000, 8000, 12_000]
const range = { fromKbps: 500, toKbps: 12_000 }
const bitrates = logarithmicBitrates(range.fromKbps, range.toKbps, 60)
const screen = computed(() => props.row.screens[0] ?? 'desk')

/** Every size that is offered, at the usual frame rates that are accepted and reached. */
const variants = computed<CurveVariant[]>(() => {
  const rates = acceptedFrameRates(props.row.rules).filter(
    (rate) => (rate === 30 || rate === 60) && rate <= store.show.canvasPair.framesPerSecond,
  )
  return props.row.sizes
    .slice(0, 3)
    .flatMap((size) =>
      rates.map((framesPerSecond) => ({ width: size.width, height: size.height, framesPerSecond })),
    )
})
const curves = computed(() =>
  scoreCurves(props.row.rendition, variants.value, pictureOf(store.show), screen.value, bitrates),
)

/** The encodes of one's own picture that the curves are read from. */
const measuredPoints = computed(() =>
  variants.value.flatMap((variant) =>
    measuredOnCurve(props.row.rendition, variant, pictureOf(store.show), screen.value),
  ),
)

/** Where the next larger size begins to look better, at this frame rate. */
const crossings = computed(() => {
  const atRate = variants.value.filter(
    (variant) => variant.framesPerSecond === props.row.rendition.framesPerSecond,
  )
  return atRate.slice(1).flatMap((smaller, index) => {
    const larger = atRate[index] as CurveVariant
    const at = crossingKbps(
      props.row.rendition,
      smaller,
      larger,
      pictureOf(store.show),
      screen.value,
      range,
    )
    if (at === null) return []
    const met = { ...props.row.rendition, ...larger, videoBitrateKbps: at }
    return [
      {
        point: [at, pictureScore(met, pictureOf(store.show), screen.value)],
        words: `Above ${kbpsInWords(at)} ${renditionInWords(larger)} beats ${renditionInWords(smaller)}.`,
      },
    ]
  })
})

/** Of what is sent at full size; the lower steps of a ladder have none of their own. */
const nextStep = useNextStep(
  computed(() => {
    const { destination, rendition } = props.row
    return destination?.renditions[0]?.id === rendition.id ? destination.id : null
  }),
)

/** Whether the words beside a point would reach over the axis, in the first third of the scale. */
const isNearAxis = (kbps: number): boolean =>
  Math.log(kbps / range.fromKbps) < Math.log(range.toKbps / range.fromKbps) * 0.4

const curveColours = computed(() => [
  props.row.canvas === 'landscape' ? colours.value.river : colours.value.foxglove,
  colours.value.moss,
  colours.value.ochre,
  colours.value['ink-2'],
])

const option = computed(() => ({
  animation: false,
  grid: { left: 40, right: 18, top: 48, bottom: 40 },
  legend: {
    top: 0,
    itemWidth: 28,
    // The line alone: no curve has a mark of its own.
    itemStyle: { opacity: 0 },
    data: curves.value.map(({ variant }) => renditionInWords(variant)),
    textStyle: { ...text, color: colours.value['ink-2'] },
  },
  tooltip: {
    trigger: 'axis',
    order: 'valueDesc',
    valueFormatter: (value: number) => value.toFixed(0),
  },
  xAxis: {
    type: 'log',
    min: range.fromKbps,
    max: range.toKbps,
    name: 'video, kb/s',
    nameLocation: 'middle',
    nameGap: 24,
    nameTextStyle: { ...text, color: colours.value['ink-2'] },
    axisLabel: { ...number, color: colours.value['ink-2'], customValues: labelledKbps },
    axisTick: { customValues: labelledKbps },
    splitLine: { show: false },
    axisLine: { lineStyle: { color: colours.value.rule } },
  },
  yAxis: {
    type: 'value',
    min: 20,
    max: 100,
    axisLabel: { ...number, color: colours.value['ink-2'] },
    splitLine: { lineStyle: { color: colours.value.rule } },
  },
  series: [
    ...curves.value.map(({ variant, points }) => ({
      type: 'line',
      name: renditionInWords(variant),
      showSymbol: false,
      lineStyle: {
        width: variant.width === props.row.rendition.width ? 3 : 2,
        type: variant.framesPerSecond === 60 ? 'solid' : 'dashed',
      },
      color:
        curveColours.value[props.row.sizes.findIndex(({ width }) => width === variant.width)] ??
        colours.value['ink-2'],
      data: points.map(({ videoBitrateKbps, score }) => [Math.round(videoBitrateKbps), score]),
    })),
    {
      type: 'scatter',
      name: 'this send',
      symbolSize: 13,
      z: 5,
      color: colours.value.ink,
      data: [[props.row.rendition.videoBitrateKbps, props.row.score]],
      markLine: {
        silent: true,
        symbol: 'none',
        label: { show: false },
        lineStyle: { color: colours.value.ink, type: 'dotted' },
        data: [{ xAxis: props.row.rendition.videoBitrateKbps }],
      },
      label: {
        ...text,
        show: true,
        // Away from the axes: at low bitrates to its right, and at low scores above it.
        position: isNearAxis(props.row.rendition.videoBitrateKbps) ? 'right' : 'left',
        offset: [0, props.row.score < 30 ? -12 : 0],
        fontWeight: 700,
        color: colours.value.ink,
        // Else the curves run through it.
        backgroundColor: colours.value.sheet,
        padding: [1, 4],
        formatter: `${kbpsInWords(props.row.rendition.videoBitrateKbps)} → ${Math.round(props.row.score)}`,
      },
      markArea: {
        silent: true,
        itemStyle: { color: colours.value.rule, opacity: 0.5 },
        label: { ...text, color: colours.value['ink-2'], position: 'insideBottom' },
        data: [
          [
            { name: 'past its limit', xAxis: props.row.rules.mostVideoBitrateKbps },
            { xAxis: range.toKbps },
          ],
        ],
      },
    },
    {
      type: 'scatter',
      name: 'measured',
      symbolSize: 6,
      z: 4,
      color: colours.value.ink,
      data: measuredPoints.value.map(({ videoBitrateKbps, score }) => [videoBitrateKbps, score]),
      tooltip: { show: false },
    },
    {
      type: 'scatter',
      name: 'crossings',
      symbol: 'diamond',
      symbolSize: 10,
      z: 4,
      color: colours.value['ink-2'],
      data: crossings.value.map(({ point }) => point),
      tooltip: { show: false },
    },
    {
      type: 'scatter',
      name: 'next step up',
      symbolSize: 13,
      itemStyle: { color: colours.value.sheet, borderColor: colours.value.ink, borderWidth: 2 },
      data: nextStep.value
        ? [
            [
              nextStep.value.rendition.videoBitrateKbps,
              pictureScore(nextStep.value.rendition, pictureOf(store.show), screen.value),
            ],
          ]
        : [],
    },
  ],
}))
</script>

<template>
  <div class="flex min-h-0 flex-col">
    <div class="min-h-0 grow"><VChart :option="option" autoresize /></div>
    <p v-if="measuredPoints.length > 0" class="text-ink-2 text-xs">
      Dots: encodes of your clip; the curves go through them, and beyond them they follow the model.
    </p>
    <p class="text-ink-2 text-xs">{{ crossings.map(({ words }) => words).join(' ') }}</p>
    <p class="min-h-4 text-xs" role="status" data-testid="next-step">
      {{ nextStep ? nextStepInWords(nextStep) : '' }}
    </p>
  </div>
</template>
