<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { mbpsFromKbps } from '@green-mantle/core/words'
import { computed } from 'vue'
import PlottedChart from '~/components/frame/PlottedChart.vue'
import { useChartTheme } from '~/composables/chartTheme'
import type { LookedAtNight } from '~/workers/rehearsal.worker'
import { axis, useTimeAxis } from './timeAxis'

use([LineChart, GridComponent, CanvasRenderer])

/** What the line carries through one night, against what is sent, stacked in the canvases' colours. */
const props = defineProps<{ looked: LookedAtNight }>()
const { colours, text, number } = useChartTheme()
const { seconds, clock } = useTimeAxis()

/** As many points as a screen is wide; of many sends fewer each, since all together are what is drawn. */
const most = { points: 720, pointsOfAllSends: 4000 } as const
const pointsOfASend = computed(() =>
  Math.min(most.points, Math.ceil(most.pointsOfAllSends / Math.max(1, props.looked.sends.length))),
)
/** Of each stretch the least of the line, so that a cut is seen. */
function thinned(
  values: Float32Array,
  secondsAPlace: number,
  pick: 'least' | 'mean',
): [number, number][] {
  const maxPoints = pick === 'least' ? most.points : pointsOfASend.value
  const size = Math.max(1, Math.ceil(values.length / maxPoints))
  const points: [number, number][] = []
  for (let from = 0; from < values.length; from += size) {
    const part = values.subarray(from, from + size)
    const kbps =
      pick === 'least' ? Math.min(...part) : part.reduce((sum, each) => sum + each, 0) / part.length
    points.push([from * secondsAPlace, mbpsFromKbps(kbps)])
  }
  return points
}

const option = computed(() => {
  const { trace, sends } = props.looked
  return {
    animation: false,
    grid: { left: axis.left, right: axis.right, top: 8, bottom: 24 },
    xAxis: {
      type: 'value',
      min: 0,
      max: seconds.value,
      interval: seconds.value / 4,
      axisLabel: {
        ...number,
        color: colours.value['ink-2'],
        formatter: (at: number) => clock(at, 'HH:mm'),
      },
      splitLine: { show: false },
      axisLine: { lineStyle: { color: colours.value.rule } },
    },
    yAxis: {
      type: 'value',
      name: 'Mb/s',
      nameLocation: 'end',
      nameTextStyle: { ...text, color: colours.value['ink-2'], align: 'right' },
      axisLabel: { ...number, color: colours.value['ink-2'] },
      splitLine: { lineStyle: { color: colours.value.rule } },
    },
    series: [
      ...sends.map(({ name, canvas }, index) => ({
        type: 'line',
        name,
        stack: 'sent',
        showSymbol: false,
        silent: true,
        step: 'end',
        lineStyle: { width: 0.5, color: colours.value.sheet },
        areaStyle: {
          color: canvas === 'landscape' ? colours.value.river : colours.value.foxglove,
          opacity: 0.95 - (index % 3) * 0.12,
        },
        data: thinned(trace.sentKbps[index] as Float32Array, trace.secondsAPlace, 'mean'),
      })),
      {
        type: 'line',
        name: 'what the line carries',
        showSymbol: false,
        silent: true,
        step: 'end',
        lineStyle: { width: 1.5, color: colours.value.ink },
        data: thinned(trace.capacityKbps, trace.secondsAPlace, 'least'),
      },
    ],
  }
})
</script>

<template>
  <div aria-hidden="true"><PlottedChart :option="option" /></div>
</template>
