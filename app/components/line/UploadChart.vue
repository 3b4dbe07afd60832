<script setup lang="ts">
import { countedSamples } from '@green-mantle/core/network'
import { kbpsFromMbps, mbpsFromKbps, mbpsInWords, mediumNames } from '@green-mantle/core/words'
import { LineChart, ScatterChart } from 'echarts/charts'
import {
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { watchDebounced } from '@vueuse/core'
import { DateTime } from 'luxon'
import { computed, shallowRef } from 'vue'
import VChart from 'vue-echarts'
import { useChartTheme } from '~/composables/chartTheme'
import { useShowStore } from '~/stores/show'

use([
  LineChart,
  ScatterChart,
  GridComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  SVGRenderer,
])

const store = useShowStore()
const { colours, text, number } = useChartTheme()

const timeOf = (iso: string): string =>
  DateTime.fromISO(iso, { zone: store.show.timeZone }).toFormat('d LLL HH:mm')

const option = computed(() => {
  const { upload, totalKbps } = store.verdict.budget
  const counted = new Set(countedSamples(store.line).map(({ id }) => id))
  const headroomFrom = upload.measuredKbps - upload.headroomKbps
  // A band too thin for its name goes without; the sum beside the chart names it.
  const band = (name: string, from: number, to: number, color: string, opacity: number) => [
    {
      name: to - from > upload.measuredKbps / 10 ? name : '',
      yAxis: mbpsFromKbps(from),
      itemStyle: { color, opacity },
    },
    { yAxis: mbpsFromKbps(to) },
  ]
  const level = (name: string, kbps: number, color: string, type: string) => ({
    name,
    yAxis: mbpsFromKbps(kbps),
    lineStyle: { color, type, width: 2 },
    label: {
      ...text,
      color,
      formatter: `${name} ${mbpsInWords(kbps)}`,
      position: 'insideStartTop',
      verticalAlign: 'top',
      padding: [6, 0, 0, 0],
    },
  })
  return {
    animation: false,
    grid: { left: 44, right: 16, top: 16, bottom: 32 },
    tooltip: {
      trigger: 'item',
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
      // The plan is drawn too where it is more than was ever measured.
      max: ({ max }: { max: number }) => Math.ceil(Math.max(max, mbpsFromKbps(totalKbps)) * 1.05),
      axisLabel: { ...number, color: colours.value['ink-2'], showMaxLabel: false },
      splitLine: { lineStyle: { color: colours.value.rule } },
    },
    series: [
      {
        type: 'scatter',
        symbolSize: 11,
        z: 5,
        data: store.line.samples.map((sample) => ({
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
        markLine: {
          symbol: 'none',
          silent: true,
          data: [
            level(`P${store.line.lowPercentile}`, upload.measuredKbps, colours.value.ink, 'solid'),
            level('the plan sends', totalKbps, colours.value.river, 'dashed'),
          ],
        },
        markArea: {
          silent: true,
          label: { ...text, color: colours.value['ink-2'], position: 'insideRight' },
          data: [
            band('headroom', headroomFrom, upload.measuredKbps, colours.value.rule, 0.6),
            band('other traffic', upload.usableKbps, headroomFrom, colours.value['ink-2'], 0.35),
            band('usable', 0, upload.usableKbps, colours.value.leaf, 0.55),
          ],
        },
      },
    ],
  }
})
/** Drawing takes a frame or two, so that it follows a drag by steps, each a task of its own. */
const drawn = shallowRef(option.value)
watchDebounced(option, (next) => (drawn.value = next), { debounce: 60, maxWait: 250 })
</script>

<template>
  <VChart :option="drawn" :update-options="{ lazyUpdate: true }" autoresize />
</template>
