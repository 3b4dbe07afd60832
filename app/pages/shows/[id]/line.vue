<script setup lang="ts">
import { defineAsyncComponent } from 'vue'
import { offerCommands } from '~/commands/commands'
import DataGuard from '~/components/line/DataGuard.vue'
import LinePicker from '~/components/line/LinePicker.vue'
import LocalNetwork from '~/components/line/LocalNetwork.vue'
import MediaCompared from '~/components/line/MediaCompared.vue'
import PathCeilings from '~/components/line/PathCeilings.vue'
import SampleTable from '~/components/line/SampleTable.vue'
import UsableSum from '~/components/line/UsableSum.vue'
import WouldItHold from '~/components/line/WouldItHold.vue'
import { useShowStore } from '~/stores/show'

// ECharts is loaded where it is first needed.
const UploadChart = defineAsyncComponent(() => import('~/components/line/UploadChart.vue'))

const store = useShowStore()

offerCommands([
  {
    id: 'line.add',
    label: 'Add a measurement',
    group: 'Line',
    keys: 'n',
    run: () => document.querySelector<HTMLElement>('#new-sample input')?.focus(),
  },
])
</script>

<template>
  <div
    class="roomy:h-full roomy:grid-cols-[minmax(0,1.4fr)_minmax(20rem,1fr)] roomy:overflow-hidden grid grid-cols-[minmax(0,1fr)] gap-4 p-4"
  >
    <div
      class="roomy:min-h-0 roomy:grid-rows-[auto_minmax(9rem,1fr)_minmax(9rem,1fr)] grid grid-cols-[minmax(0,1fr)] grid-rows-[auto_16rem_auto] gap-3"
    >
      <LinePicker />
      <section class="card contain-layout flex min-h-0 flex-col p-3" aria-labelledby="chart-title">
        <h3 id="chart-title" class="font-text text-sm font-semibold">
          Upload as measured, Mb/s
          <span class="text-ink-2 font-normal">· filled by cable, hollow by Wi-Fi or mobile</span>
        </h3>
        <div class="min-h-0 grow">
          <UploadChart v-if="store.line.samples.length > 0" />
          <p v-else class="text-ink-2 pt-6">The measurements will be drawn here.</p>
        </div>
      </section>
      <SampleTable />
    </div>
    <div class="roomy:min-h-0 roomy:overflow-y-auto flex flex-col gap-3">
      <UsableSum />
      <WouldItHold v-if="store.line.samples.length > 0" />
      <MediaCompared />
      <PathCeilings />
      <DataGuard />
      <LocalNetwork />
    </div>
  </div>
</template>
