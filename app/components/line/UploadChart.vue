<script setup lang="ts">
import { countedSamples, uploadScaleMbps } from '@green-mantle/core/network'
import { kbpsFromMbps, mbpsFromKbps, mbpsInWords, mediumNames } from '@green-mantle/core/words'
import { ScatterChart } from 'echarts/charts'
import { GridComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { DateTime } from 'luxon'
import { computed } from 'vue'
import PlottedChart from '~/components/frame/PlottedChart.vue'
import { useChartTheme } from '~/composables/chartTheme'
import { useShowStore } from '~/stores/show'
import UploadBands from './UploadBands.vue'

use([ScatterChart, GridComponent, TooltipComponent, SVGRenderer])

const store = useShowStore()
const { colours, text, number } = useChartTheme()

/** In pixels; the bands behind the chart keep to it too. */
const grid = { left: 44, right: 16, top: 16, bottom: 32 }

const timeOf = (iso: string): string =>
  DateTime.fromISO(iso, { zone: store.show.timeZone }).toFormat('d LLL HH:mm')

const samples = computed(() => store.line.samples)
const medium = computed(() => store.line.medium)
/** The plan is drawn too where it is more than was ever measured. */
const maxMbps = computed(() => {
  const rates = samples.value.map(({ uploadKbps }) => uploadKbps)
  return uploadScaleMbps(rates, store.verdict.budget.totalKbps)
})

const option = computed(() => {
  const counted = new Set(
    countedSamples({ samples: samples.value, medium: medium.value }).map(({ id }) => id),
  )
  return {
    animation: false,
    grid,
    tooltip: {
      trigger: 'item',
      textStyle: text,
      formatter: ({ data }: { data?: { value: [string, number]; medium: string } }) =>
        data
          ? `${timeOf(data.value[0])}<br>${mbpsInWords(kbpsFromMbps(data.value[1]))}, ${data.medium}`
          : '',
    },
    xAxis: {
      type: 'time',
      axisLabel: {
        ...number,
        color: colours.value['ink-2'],
        hideOverlap: true,
        formatter: (at: number) =>
          DateTime.fromMillis(at, { zone: store.show.timeZone }).toFormat('HH:mm'),
      },
      axisLine: { lineStyle: { color: colours.value.rule } },
      splitLine: { show: false },
    },
    yAxis: {
      type: 'value',
      min: 0,
      max: maxMbps.value,
      axisLabel: { ...number, color: colours.value['ink-2'], showMaxLabel: false },
      splitLine: { lineStyle: { color: colours.value.rule } },
    },
    series: [
      {
        type: 'scatter',
        symbolSize: 11,
        z: 5,
        data: samples.value.map((sample) => ({
          value: [sample.measuredAt, mbpsFromKbps(sample.uploadKbps)],
          medium: mediumNames[sample.medium],
          itemStyle: {
            ...(sample.medium === 'cable'
              ? { color: colours.value.moss }
              : { color: colours.value.sheet, borderColor: colours.value.moss, borderWidth: 2 }),
            // What does not count is still there to be compared.
            opacity: counted.has(sample.id) ? 1 : 0.35,
          },
        })),
      },
    ],
  }
})
const inset = {
  left: `${grid.left}px`,
  right: `${grid.right}px`,
  top: `${grid.top}px`,
  bottom: `${grid.bottom}px`,
}
</script>

<template>
  <div class="relative size-full">
    <UploadBands
      class="absolute"
      :style="inset"
      :upload="store.verdict.budget.upload"
      :low-percentile="store.line.lowPercentile"
      :total-kbps="store.verdict.budget.totalKbps"
      :max-kbps="kbpsFromMbps(maxMbps)"
    />
    <PlottedChart class="relative" :option="option" />
  </div>
</template>
