<script setup lang="ts">
import { pictureKinds, type PictureKind } from '@green-mantle/core/show'
import { pictureKindNames } from '@green-mantle/core/words'
import { computed, defineAsyncComponent } from 'vue'
import { RouterLink } from 'vue-router'
import { offerCommands } from '~/commands/commands'
import SelectField from '~/components/fields/SelectField.vue'
import FitChecks from '~/components/fit/FitChecks.vue'
import FitTable from '~/components/fit/FitTable.vue'
import SendDetails from '~/components/fit/SendDetails.vue'
import { fitRows } from '~/components/fit/rows'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

// ECharts is loaded where it is first needed.
const BitsBuyChart = defineAsyncComponent(() => import('~/components/fit/BitsBuyChart.vue'))

const store = useShowStore()
const selection = useSelectionStore()

const rows = computed(() => fitRows(store.show, store.verdict.budget, store.verdict.breaches))
const chosen = computed(
  () =>
    rows.value.find((row) => row.rendition.id === selection.renditionId) ??
    rows.value.find((row) => row.destination.id === selection.destinationId) ??
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
const kinds = pictureKinds.map((value) => ({ value, label: pictureKindNames[value] }))

function setKind(kind: PictureKind): void {
  store.edit('Set the kind of picture', (draft) => {
    draft.pictureKind = kind
  })
}

offerCommands(
  pictureKinds.map((kind) => ({
    id: `fit.kind.${kind}`,
    label: `Picture: ${pictureKindNames[kind]}`,
    group: 'Fit',
    run: () => setKind(kind),
  })),
)
</script>

<template>
  <div class="flex h-full flex-col gap-3 overflow-y-auto p-4">
    <div class="flex shrink-0 items-end justify-between gap-4">
      <div>
        <h2 class="text-2xl" :class="tone">{{ store.verdict.sentence }}</h2>
        <p class="text-ink-2 min-h-5">{{ store.verdict.advice }}</p>
      </div>
      <SelectField
        class="w-64"
        label="Picture"
        :model-value="store.show.pictureKind"
        :choices="kinds"
        @update:model-value="setKind($event as PictureKind)"
      />
    </div>
    <template v-if="rows.length > 0">
      <FitTable class="max-h-[50%] shrink-0" :rows="rows" />
      <div
        v-if="chosen"
        class="grid min-h-72 grow grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)_17rem] gap-3"
      >
        <section class="card flex min-h-0 flex-col p-3.5" aria-labelledby="bits-title">
          <h3 id="bits-title" class="mb-1 text-base">
            What the bits buy on {{ chosen.send.name }}
          </h3>
          <BitsBuyChart class="grow" :row="chosen" />
        </section>
        <section class="card overflow-y-auto p-3.5" aria-labelledby="checks-title" tabindex="0">
          <h3 id="checks-title" class="mb-1 text-base">Sum and rules</h3>
          <FitChecks />
        </section>
        <section class="card overflow-y-auto p-3.5" aria-labelledby="send-title" tabindex="0">
          <h3 id="send-title" class="mb-1 truncate text-base">{{ chosen.send.name }} in full</h3>
          <SendDetails :row="chosen" />
        </section>
      </div>
    </template>
    <p v-else>
      Nothing is sent yet.
      <RouterLink class="link" :to="`/shows/${store.id}/destinations`"
        >Add a destination or switch one on.</RouterLink
      >
    </p>
  </div>
</template>
