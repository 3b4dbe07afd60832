<script setup lang="ts">
import { pictureKinds, type PictureChoice } from '@green-mantle/core/show'
import { pictureKindNames } from '@green-mantle/core/words'
import { computed, defineAsyncComponent, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { offerCommands } from '~/commands/commands'
import SelectField from '~/components/fields/SelectField.vue'
import ComparePlans from '~/components/fit/ComparePlans.vue'
import FitChecks from '~/components/fit/FitChecks.vue'
import FitTable from '~/components/fit/FitTable.vue'
import LeftOut from '~/components/fit/LeftOut.vue'
import PlannerBar from '~/components/fit/PlannerBar.vue'
import PlannerWords from '~/components/fit/PlannerWords.vue'
import RecordingList from '~/components/fit/RecordingList.vue'
import RoomLeft from '~/components/fit/RoomLeft.vue'
import SendDetails from '~/components/fit/SendDetails.vue'
import SimpleAnswer from '~/components/fit/SimpleAnswer.vue'
import WaysToGain from '~/components/fit/WaysToGain.vue'
import InTurn from '~/components/frame/InTurn.vue'
import { fitRows } from '~/components/fit/rows'
import { pictureChoicesFor } from '~/composables/pictureChoices'
import { usePlannerStore } from '~/stores/planner'
import { useSelectionStore } from '~/stores/selection'
import { useShowEditing } from '~/composables/showEditing'
import { useShowStore } from '~/stores/show'

// ECharts is loaded where it is first needed.
const BitsBuyChart = defineAsyncComponent(() => import('~/components/fit/BitsBuyChart.vue'))

const store = useShowStore()
const { setPictureKind } = useShowEditing()
const selection = useSelectionStore()
const planner = usePlannerStore()

watch(
  () => store.isOpen,
  (isOpen) => {
    if (isOpen) planner.want()
  },
  { immediate: true },
)

const rows = computed(() => fitRows(store.show, store.verdict.breaches))
const chosen = computed(
  () =>
    rows.value.find((row) => row.rendition.id === selection.renditionId) ??
    rows.value.find(
      (row) => row.destination !== null && row.destination.id === selection.destinationId,
    ) ??
    rows.value[0],
)
const tone = computed(
  () =>
    ({
      fits: 'text-moss',
      attention: 'text-ochre',
      fails: 'text-madder',
      'nothing yet': 'text-ink',
    })[store.verdict.state],
)
const kinds = computed(() => pictureChoicesFor(store.show))

offerCommands(
  pictureKinds.map((kind) => ({
    id: `fit.kind.${kind}`,
    label: `Picture: ${pictureKindNames[kind]}`,
    group: 'Fit',
    run: () => setPictureKind(kind),
  })),
)
</script>

<template>
  <div class="roomy:h-full roomy:overflow-y-auto flex flex-col gap-3 p-4">
    <div class="flex shrink-0 flex-wrap items-end justify-end gap-x-4 gap-y-2">
      <div class="min-w-72 flex-1">
        <h2 class="text-2xl" :class="tone">{{ store.verdict.sentence }}</h2>
        <PlannerWords />
      </div>
      <PlannerBar />
      <SelectField
        class="w-52 shrink-0"
        label="Picture"
        :model-value="store.show.pictureKind"
        :choices="kinds"
        @update:model-value="setPictureKind($event as PictureChoice)"
      />
      <RouterLink class="link shrink-0 pb-1.5" :to="`/shows/${store.id}/encoders`"
        >Measure mine</RouterLink
      >
    </div>
    <FitTable v-if="rows.length > 0" class="roomy:max-h-[45vh] shrink-0" :rows="rows" />
    <p v-else>
      Nothing is sent yet.
      <RouterLink class="link" :to="`/shows/${store.id}/destinations`"
        >Add a destination or switch one on.</RouterLink
      >
    </p>
    <LeftOut />
    <div
      v-if="chosen"
      class="roomy:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)_17rem] roomy:xl:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)_19rem] grid shrink-0 grid-cols-[minmax(0,1fr)] gap-3"
    >
      <section class="card flex h-86 min-h-0 flex-col p-3.5" aria-labelledby="bits-title">
        <h3 id="bits-title" class="mb-1 text-base">What the bits buy on {{ chosen.name }}</h3>
        <InTurn><BitsBuyChart class="min-h-0 grow" :row="chosen" /></InTurn>
      </section>
      <section class="card h-86 overflow-y-auto p-3.5" aria-labelledby="room-title" tabindex="0">
        <h3 id="room-title" class="mb-1 text-base">Room left</h3>
        <InTurn><RoomLeft /></InTurn>
      </section>
      <section class="card h-86 overflow-y-auto p-3.5" aria-labelledby="gain-title" tabindex="0">
        <h3 id="gain-title" class="mb-1 text-base">Ways to gain</h3>
        <InTurn><WaysToGain /></InTurn>
      </section>
      <section class="card roomy:col-span-2 p-3.5" aria-labelledby="send-title">
        <h3 id="send-title" class="mb-1 truncate text-base">{{ chosen.name }} in full</h3>
        <InTurn><SendDetails :row="chosen" /></InTurn>
      </section>
      <div class="flex flex-col gap-3">
        <section class="card p-3.5" aria-labelledby="checks-title">
          <h3 id="checks-title" class="mb-1 text-base">Sum and rules</h3>
          <InTurn><FitChecks /></InTurn>
        </section>
        <section class="card grow p-3.5" aria-labelledby="simple-title">
          <h3 id="simple-title" class="mb-1 text-base">One upload, one place</h3>
          <SimpleAnswer />
        </section>
      </div>
      <section class="card roomy:col-span-3 p-3.5" aria-labelledby="compare-title">
        <h3 id="compare-title" class="mb-1 text-base">Compare plans</h3>
        <InTurn><ComparePlans /></InTurn>
      </section>
    </div>
    <section
      v-else-if="!chosen"
      class="card max-w-md shrink-0 p-3.5"
      aria-labelledby="simple-title"
    >
      <h3 id="simple-title" class="mb-1 text-base">One upload, one place</h3>
      <SimpleAnswer />
    </section>
    <section class="card shrink-0 p-3.5" aria-labelledby="recordings-title">
      <h3 id="recordings-title" class="mb-1 text-base">Recordings</h3>
      <InTurn><RecordingList /></InTurn>
    </section>
  </div>
</template>
