<script setup lang="ts">
import { headroomsTried } from '@green-mantle/core/rehearsal'
import { countedSamples, fewestSamplesForLessHeadroom } from '@green-mantle/core/network'
import { lineOf } from '@green-mantle/core/show'
import { countInWords } from '@green-mantle/core/words'
import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import PlottedChart from '~/components/frame/PlottedChart.vue'
import { useChartTheme } from '~/composables/chartTheme'
import { useRehearsalStore } from '~/stores/rehearsal'
import { useShowStore } from '~/stores/show'
import { useRehearsalEditing } from './rehearsalEditing'

use([LineChart, ScatterChart, GridComponent, MarkLineComponent, SVGRenderer])

/** How many nights would be clean at each headroom, the show planned anew for each. */
const store = useShowStore()
const rehearsal = useRehearsalStore()
const editing = useRehearsalEditing()
const { colours, text, number } = useChartTheme()

const present = computed(() => lineOf(store.show).headroomPercent)
const points = computed(() => rehearsal.headrooms.filter(({ nights }) => nights > 0))
const enough = computed(() => rehearsal.enough)
const presentPoint = computed(() => points.value.find(({ percent }) => percent === present.value))
const cost = computed(() => {
  const here = presentPoint.value?.points ?? null
  const there = enough.value?.points ?? null
  return here === null || there === null ? null : here - there
})

const sampleCount = computed(() => countedSamples(store.line).length)

const option = computed(() => ({
  animation: false,
  grid: { left: 36, right: 14, top: 12, bottom: 36 },
  xAxis: {
    type: 'value',
    min: 0,
    max: 60,
    name: 'headroom, %',
    nameLocation: 'middle',
    nameGap: 22,
    nameTextStyle: { ...text, color: colours.value['ink-2'] },
    axisLabel: { ...number, color: colours.value['ink-2'] },
    splitLine: { show: false },
    axisLine: { lineStyle: { color: colours.value.rule } },
  },
  yAxis: {
    type: 'value',
    min: 0,
    max: 100,
    interval: 50,
    axisLabel: { ...number, color: colours.value['ink-2'] },
    splitLine: { lineStyle: { color: colours.value.rule } },
  },
  series: [
    // Between the two lies the share with 95 % certainty.
    {
      ...{ type: 'line', stack: 'interval', symbol: 'none', silent: true },
      lineStyle: { opacity: 0 },
      data: points.value.map(({ percent, share }) => [percent, 100 * share.low]),
    },
    {
      ...{ type: 'line', stack: 'interval', symbol: 'none', silent: true },
      lineStyle: { opacity: 0 },
      areaStyle: { color: colours.value.moss, opacity: 0.18 },
      data: points.value.map(({ percent, share }) => [percent, 100 * (share.high - share.low)]),
    },
    {
      type: 'line',
      symbolSize: 5,
      color: colours.value.moss,
      lineStyle: { width: 2 },
      data: points.value.map(({ percent, share }) => [percent, 100 * share.share]),
      z: 3,
      markLine: {
        silent: true,
        symbol: 'none',
        lineStyle: { color: colours.value.moss, type: 'dashed' },
        label: { show: false },
        data: [{ yAxis: store.show.rehearsal.wantedPercent }],
      },
    },
    {
      type: 'scatter',
      symbolSize: 12,
      color: colours.value.ink,
      data: presentPoint.value
        ? [[presentPoint.value.percent, 100 * presentPoint.value.share.share]]
        : [],
    },
    {
      type: 'scatter',
      symbolSize: 12,
      itemStyle: {
        color: colours.value.sheet,
        borderColor: colours.value.ink,
        borderWidth: 2,
      },
      data: enough.value ? [[enough.value.percent, 100 * enough.value.share.share]] : [],
    },
  ],
}))
</script>

<template>
  <section class="card p-3.5" aria-labelledby="enough-title">
    <h3 id="enough-title" class="mb-1 text-base">How much headroom is enough?</h3>
    <div class="flex items-end gap-2">
      <QuantityField
        quantity="wanted share of nights"
        class="w-36"
        label="Clean on, of 100 nights"
        :model-value="store.show.rehearsal.wantedPercent"
        @update:model-value="editing.setWantedPercent($event)"
      />
      <button
        v-if="rehearsal.running !== 'headroom'"
        type="button"
        class="button"
        @click="rehearsal.findHeadroom()"
      >
        Find it
      </button>
      <button v-else type="button" class="button" @click="rehearsal.stop()">Stop</button>
    </div>
    <div class="mt-1.5 flex items-center gap-2">
      <OnSwitch
        :model-value="store.show.rehearsal.headroomFollows"
        label="Let the headroom follow this wish"
        @update:model-value="editing.setHeadroomFollows"
      />
      <span
        class="text-xs"
        title="Whenever Rehearse is opened, or something changes while it is open"
        >let the headroom follow</span
      >
    </div>
    <p v-if="!store.show.fit.automatic" class="text-ochre mt-1 text-xs">
      Cells are set by hand, so a headroom changes nothing of what is sent until its plan is taken
      on Fit.
    </p>
    <p v-if="rehearsal.running === 'headroom'" role="status" class="text-ink-2 text-xs">
      {{ rehearsal.headrooms.length }} of {{ headroomsTried.length }} headrooms …
    </p>
    <template v-if="points.length > 0">
      <div class="h-40" aria-hidden="true"><PlottedChart :option="option" /></div>
      <p class="text-ink-2 text-xs">
        The plan that is there, its bitrates made to fit each headroom; shaded is where the share
        lies with 95 % certainty. What is offered holds planned anew, too.
      </p>
      <table class="sr-only">
        <caption>
          Clean nights by headroom
        </caption>
        <tbody>
          <tr v-for="point in points" :key="point.percent">
            <th scope="row">{{ point.percent }} %</th>
            <td>
              {{ (100 * point.share.share).toFixed(1) }} of 100 clean, from
              {{ point.nights }} nights, with 95 % certainty
              {{ (100 * point.share.low).toFixed(0) }} to
              {{ (100 * point.share.high).toFixed(0) }}
            </td>
          </tr>
        </tbody>
      </table>
      <div
        v-if="enough && enough.percent !== present"
        class="flex items-center justify-between gap-2"
      >
        <p>
          {{ enough.percent }} % makes
          {{ (100 * (enough.anew ?? enough.share).share).toFixed(0) }} of 100 clean<template
            v-if="cost !== null"
          >
            and {{ cost >= 0 ? 'costs' : 'gains' }}
            <b>{{ Math.abs(cost).toFixed(1) }} points</b></template
          >.<template v-if="rehearsal.isTooRisky">
            That rests on {{ countInWords(sampleCount, 'measurement') }}: too few to give headroom
            up. Measure {{ fewestSamplesForLessHeadroom }} times, or bring seconds in a row
            in.</template
          >
        </p>
        <button
          v-if="!rehearsal.isTooRisky && rehearsal.running !== 'headroom'"
          type="button"
          class="button shrink-0"
          @click="rehearsal.setHeadroom(enough.percent)"
        >
          Set {{ enough.percent }} %
        </button>
      </div>
      <p v-else-if="enough">{{ present }} % is enough, and no less.</p>
      <p v-else-if="!rehearsal.running">
        No headroom that was tried makes so many nights clean: it is not the line’s breadth that is
        missing.
      </p>
    </template>
    <p v-else-if="!rehearsal.running" class="text-ink-2 mt-1 text-xs">
      The show is planned anew at each headroom, and the same nights are run.
    </p>
  </section>
</template>
